import express, { Router } from 'express'
import Joi from 'joi'
import type { Transaction } from 'sequelize'
import { operatorOf } from '../access/identity.ts'
import { hashPin } from '../access/pin.ts'
import { addPerson } from '../access/sessions.ts'
import { MachineRow } from '../models/index.ts'
import { Certificate, Person, Session } from '../models/people.ts'
import { Refusal } from '../refusal.ts'
import { personName, pinSchema } from './session.ts'
import { validated } from './validate.ts'

const id = Joi.string()
  .pattern(/^[A-Za-z0-9_-]{1,40}$/)
  .required()
const json = express.json({ limit: '10kb' })

const changeSchema = Joi.object<{ pin?: string; composes?: boolean; keeps?: boolean }>({
  pin: pinSchema,
  composes: Joi.boolean(),
  keeps: Joi.boolean(),
}).min(1)

async function personOr404(key: unknown): Promise<Person> {
  const person = await Person.findByPk(validated(id, key))
  if (!person) throw new Refusal(404, 'no-person', 'Nobody of that name works here any more.')
  return person
}

/**
 * Takes keeping the shop from somebody by `work`; of two who give it up at once the second finds that nobody else is left.
 * @throws Refusal where somebody must go on keeping it
 */
async function someoneElseKeeps(person: Person, work: (transaction: Transaction) => Promise<void>): Promise<void> {
  await Person.sequelize!.transaction(async (transaction) => {
    const keepers = await Person.findAll({ where: { keeps: true }, order: ['id'], transaction, lock: transaction.LOCK.UPDATE })
    if (keepers.length <= 1 && keepers.some(({ id: one }) => one === person.id))
      throw new Refusal(409, 'last', 'Somebody must keep the shop: give that to somebody else first.')
    await work(transaction)
  })
}

/** Who works here, what they may do, and which machines they are certified for. */
export function peopleRoutes(): Router {
  const routes = Router()
  routes.get('/people', async (_request, response) => {
    const people = await Person.findAll({ order: ['name'] })
    const certificates = await Certificate.findAll()
    response.json({
      people: people.map((person) => ({
        id: person.id,
        name: person.name,
        composes: person.composes,
        keeps: person.keeps,
        certificates: certificates
          .filter(({ personId }) => personId === person.id)
          .map(({ machineId, certifiedBy, untilAt }) => ({ machineId, certifiedBy, untilAt })),
      })),
    })
  })

  routes.post('/people', json, async (request, response) => {
    const schema = Joi.object({
      name: personName.required(),
      pin: pinSchema.required(),
      composes: Joi.boolean().required(),
      keeps: Joi.boolean().required(),
    })
    const { name, pin, composes, keeps } = validated(schema, request.body)
    const person = await addPerson(name, pin, { composes, keeps })
    response.status(201).json({ id: person.id })
  })

  routes.patch('/people/:id', json, async (request, response) => {
    const person = await personOr404(request.params.id)
    const { pin, ...may } = validated(changeSchema, request.body)
    const values = { ...may, ...(pin && { pin: await hashPin(pin) }) }
    if (may.keeps === false)
      await someoneElseKeeps(person, async (transaction) => void (await person.update(values, { transaction })))
    else await person.update(values)
    // Another PIN counts from now on, everywhere.
    if (pin) await Session.destroy({ where: { personId: person.id } })
    response.status(204).end()
  })

  routes.delete('/people/:id', async (request, response) => {
    const person = await personOr404(request.params.id)
    await someoneElseKeeps(person, async (transaction) => {
      await Session.destroy({ where: { personId: person.id }, transaction })
      await Certificate.destroy({ where: { personId: person.id }, transaction })
      await person.destroy({ transaction })
    })
    response.status(204).end()
  })

  /** Certified for a machine: by whoever keeps the shop, until a day or without end. */
  routes.put('/people/:id/certificates/:machine', json, async (request, response) => {
    const person = await personOr404(request.params.id)
    const machineId = validated(id, request.params.machine)
    const { until } = validated(
      Joi.object<{ until: Date | null }>({ until: Joi.date().iso().allow(null).required() }),
      request.body,
    )
    if (!(await MachineRow.findByPk(machineId))) throw new Refusal(404, 'no-machine', 'There is no such machine.')
    await Certificate.upsert({ personId: person.id, machineId, certifiedBy: operatorOf(request), untilAt: until })
    response.status(204).end()
  })
  routes.delete('/people/:id/certificates/:machine', async (request, response) => {
    const person = await personOr404(request.params.id)
    await Certificate.destroy({ where: { personId: person.id, machineId: validated(id, request.params.machine) } })
    response.status(204).end()
  })
  return routes
}
