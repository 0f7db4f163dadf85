import { type CameraSaved, cameraId, type MachineCamera, type PhotoAsked, type UnderCamera } from '@neotaxis/contract'
import { HEAD_STOOD } from '@neotaxis/contract/paths'
import { bedSize, type Calibration } from '@neotaxis/core'
import express, { Router } from 'express'
import { operatorOf } from '../access/identity.ts'
import { streamAsset } from '../assets/store.ts'
import { type CameraReach, takenPhoto } from '../machines/camera.ts'
import type { Desks } from '../machines/desks.ts'
import { keepPhoto } from '../machines/keep-photo.ts'
import { atPanel } from '../machines/panel-client.ts'
import { underCamera } from '../machines/under-camera.ts'
import { CameraRow, RunPhotoRow } from '../models/cameras.ts'
import { Refusal } from '../refusal.ts'
import { bodyOf, idIn, on } from './endpoint.ts'
import { validated } from './validate.ts'

const isAtHead = (camera: string): boolean => camera.endsWith('@head')
const bedOf = (camera: string): string => camera.split('@')[0]

const json = express.json({ limit: '1mb' })

const date = (value: Date | null): string | null => (value ? new Date(value).toISOString() : null)

/** The cameras over the beds: photos, calibrations, and what lies under simulated ones. */
export function cameraRoutes(desks: Desks, simulated: ReadonlyMap<string, CameraReach>): Router {
  const routes = Router()

  /** What is known of the camera of a machine; one that ships is there without being told. */
  const cameraOf = async (machine: string): Promise<MachineCamera | null> => {
    const row = await CameraRow.findByPk(machine)
    const reach = simulated.get(machine)
    const address = row?.address || reach?.address
    if (!address) return null
    return {
      address,
      simulated: address === reach?.address,
      calibration: row?.calibration ? (JSON.parse(row.calibration) as Calibration) : null,
      calibratedAt: date(row?.calibratedAt ?? null),
      empty: row?.empty ?? null,
      emptyAt: date(row?.emptyAt ?? null),
    }
  }
  const there = async (machine: string): Promise<MachineCamera> => {
    const camera = await cameraOf(machine)
    if (!camera) throw new Refusal(404, 'no-camera', 'There is no camera over this machine: give its address in its profile.')
    return camera
  }
  /** Which camera is meant: the one over a machine's bed, or `MACHINE@head`. @throws where there is no such machine */
  const cameraIn = (request: Parameters<typeof idIn>[0]): string => {
    const key = validated(cameraId.required(), request.params.id) as string
    desks.machine(bedOf(key))
    return key
  }

  on(routes, 'camera', async (request, response) => {
    response.json({ camera: await cameraOf(cameraIn(request)) })
  })

  on(routes, 'saveCamera', json, async (request, response) => {
    const machine = cameraIn(request)
    const { address, calibration } = bodyOf('saveCamera', request) as CameraSaved
    const before = await CameraRow.findByPk(machine)
    // The address of the one that ships is new with every start.
    const own = address === undefined ? (before?.address ?? '') : address === simulated.get(machine)?.address ? '' : address
    const isOther = before !== null && own !== before.address
    const kept = isOther ? { calibration: null, calibratedAt: null, empty: null, emptyAt: null } : {}
    await CameraRow.upsert({
      machine,
      address: own,
      calibration: before?.calibration ?? null,
      calibratedAt: before?.calibratedAt ?? null,
      empty: before?.empty ?? null,
      emptyAt: before?.emptyAt ?? null,
      ...kept,
      // Seen otherwise, the empty bed is to be photographed anew.
      ...(calibration && { calibration: JSON.stringify(calibration), calibratedAt: new Date(), empty: null, emptyAt: null }),
    })
    response.json({ camera: await cameraOf(machine) })
  })

  on(routes, 'takePhoto', json, async (request, response) => {
    const key = cameraIn(request)
    const camera = await there(key)
    const { widthPx, at } = bodyOf('takePhoto', request) as PhotoAsked
    const taken = (): Promise<Uint8Array> => takenPhoto(camera.address, widthPx ?? camera.calibration?.camera.widthPx)
    let photo: Uint8Array
    if (at) {
      if (!isAtHead(key)) throw new Refusal(400, 'bad-request', 'This camera hangs over the bed: it goes nowhere.')
      const stood = await desks.desk(bedOf(key)).hand.standing(operatorOf(request), at, at.speedMmS, taken)
      response.set(HEAD_STOOD, [stood.at.x, stood.at.y, stood.at.z].join(' '))
      photo = stood.done
    } else photo = await taken()
    response.set({ 'Content-Type': 'image/jpeg', 'Cache-Control': 'no-store' }).send(Buffer.from(photo))
  })

  on(routes, 'takeEmpty', json, async (request, response) => {
    const machine = cameraIn(request)
    const camera = await there(machine)
    if (!camera.calibration)
      throw new Refusal(409, 'not-calibrated', 'Calibrate the camera first: the empty bed is seen with that.')
    const photo = await takenPhoto(camera.address, camera.calibration.camera.widthPx)
    await CameraRow.update({ empty: await keepPhoto(photo), emptyAt: new Date() }, { where: { machine } })
    response.json({ camera: await cameraOf(machine) })
  })

  on(routes, 'underCamera', json, async (request, response) => {
    const machine = cameraIn(request)
    const reach = simulated.get(machine)
    if (!reach) throw new Refusal(409, 'no-simulated', 'This camera is not simulated: lay it there by hand.')
    const wish = bodyOf('underCamera', request) as UnderCamera
    const bed = bedOf(machine)
    const desk = desks.desk(bed)
    const things = underCamera(wish, bedSize(desks.machine(bed)))
    try {
      // What was burned before is taken out first, when it was looked at: it would lie over what is laid now.
      await desks.runLog.looked(bed)
      if (desk.hasPanel && !desk.isBusy) await atPanel(desk.panelPort(), { do: 'lift' })
      // Both cameras see the same bed.
      for (const each of [simulated.get(bed), simulated.get(`${bed}@head`)])
        if (each) await atPanel(each.panel, { do: 'lay', things })
      if (wish.fault !== undefined) await atPanel(reach.panel, { do: 'fail', how: wish.fault })
    } catch (cause) {
      throw new Refusal(409, 'panel', cause instanceof Error ? cause.message : 'It cannot be done.')
    }
    response.status(204).end()
  })

  on(routes, 'runPhoto', async (request, response) => {
    const row = await RunPhotoRow.findByPk(idIn(request))
    if (!row) throw new Refusal(404, 'no-photo', 'No photo was taken after this run.')
    response.set('Content-Type', 'image/jpeg')
    await streamAsset(row.photo, response)
  })
  return routes
}
