import express, { Router } from 'express'
import type { Transaction } from 'sequelize'
import { operatorOf } from '../access/identity.ts'
import { hashPin } from '../access/pin.ts'
import { addPerson } from '../access/sessions.ts'
import { MachineRow } from '../models/index.ts'
import { Certificate, Person, Session } from '../models/people.ts'
import { Refusal } from '../refusal.ts'
import { bodyOf, idIn, on } from './endpoint.ts'

const json = express.json({ limit: '10kb' })

async function personOr404(key: string): Promise<Person> {
  const person = await Person.findByPk(key)
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
  on(routes, 'people', async (_request, response) => {
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

  on(routes, 'addPerson', json, async (request, response) => {
    const { name, pin, composes, keeps } = bodyOf('addPerson', request)
    const person = await addPerson(name, pin, { composes, keeps })
    response.status(201).json({ id: person.id })
  })

  on(routes, 'changePerson', json, async (request, response) => {
    const person = await personOr404(idIn(request))
    const { pin, ...may } = bodyOf('changePerson', request)
    const values = { ...may, ...(pin && { pin: await hashPin(pin) }) }
    if (may.keeps === false)
      await someoneElseKeeps(person, async (transaction) => void (await person.update(values, { transaction })))
    else await person.update(values)
    // Another PIN counts from now on, everywhere.
    if (pin) await Session.destroy({ where: { personId: person.id } })
    response.status(204).end()
  })

  on(routes, 'removePerson', async (request, response) => {
    const person = await personOr404(idIn(request))
    await someoneElseKeeps(person, async (transaction) => {
      await Session.destroy({ where: { personId: person.id }, transaction })
      await Certificate.destroy({ where: { personId: person.id }, transaction })
      await person.destroy({ transaction })
    })
    response.status(204).end()
  })

  /** Certified for a machine: by whoever keeps the shop, until a day or without end. */
  on(routes, 'certify', json, async (request, response) => {
    const person = await personOr404(idIn(request))
    const machineId = idIn(request, 'machine')
    const { until } = bodyOf('certify', request)
    if (!(await MachineRow.findByPk(machineId))) throw new Refusal(404, 'no-machine', 'There is no such machine.')
    await Certificate.upsert({ personId: person.id, machineId, certifiedBy: operatorOf(request), untilAt: until })
    response.status(204).end()
  })
  on(routes, 'uncertify', async (request, response) => {
    const person = await personOr404(idIn(request))
    await Certificate.destroy({ where: { personId: person.id, machineId: idIn(request, 'machine') } })
    response.status(204).end()
  })
  return routes
}
