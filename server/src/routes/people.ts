import express, { Router } from 'express'
import Joi from 'joi'
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

/** Somebody must go on keeping the shop. @throws Refusal */
async function someoneElseKeeps(person: Person): Promise<void> {
  if (person.keeps && (await Person.count({ where: { keeps: true } })) <= 1)
    throw new Refusal(409, 'last', 'Somebody must keep the shop: give that to somebody else first.')
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
    if (may.keeps === false) await someoneElseKeeps(person)
    await person.update({ ...may, ...(pin && { pin: await hashPin(pin) }) })
    // Another PIN counts from now on, everywhere.
    if (pin) await Session.destroy({ where: { personId: person.id } })
    response.status(204).end()
  })

  routes.delete('/people/:id', async (request, response) => {
    const person = await personOr404(request.params.id)
    await someoneElseKeeps(person)
    await Session.destroy({ where: { personId: person.id } })
    await Certificate.destroy({ where: { personId: person.id } })
    await person.destroy()
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
