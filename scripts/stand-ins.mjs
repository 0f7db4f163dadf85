// Simulated machines beside the server: started here, ended with whoever started them.
import { spawn } from 'node:child_process'
import { program } from './build.mjs'
import { root } from './prepare.mjs'

/**
 * Starts the simulated cameras over simulated machines, as processes of their own.
 * @param machines what `startMachines` told
 * @returns what the server is told in NEOTAXIS_CAMERAS, and the way to end them
 */
export async function startCameras(machines) {
  const children = []
  const told = []
  const places = [...machines.matchAll(/([\w-]+)=\d+\/(\d+)/g)].flatMap(([, profile, panel]) => [
    [profile, panel, '0', '0'],
    // A scan head stays where it is: a camera at it would see nothing else.
    ...(profile.startsWith('scan') ? [] : [[profile, panel, '0', '0', 'head']]),
  ])
  for (const place of places) {
    const child = spawn(process.execPath, ['--enable-source-maps', program('stand-ins', 'camera'), ...place], {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      detached: true,
    })
    children.push(child)
    told.push(
      new Promise((resolve, reject) => {
        child.once('message', (message) => resolve(`${message.profile}=${message.port}/${message.panel}`))
        child.once('exit', () => reject(new Error(`The simulated camera over ${place[0]} did not start.`)))
      }),
    )
  }
  const cameras = (await Promise.all(told)).join(',')
  return { cameras, stop: () => children.forEach((child) => void child.kill('SIGTERM')) }
}

/**
 * Starts simulated machines as processes of their own.
 * @param machines {profile, pace, seed?, share?}: seed and share give them a hidden truth off from the profile
 * @returns what the server is told in NEOTAXIS_SIMULATED, and the way to end them
 */
export async function startMachines(machines) {
  const children = []
  const told = []
  for (const { profile, pace, port = 0, panel = 0, seed, share } of machines) {
    const args = [profile, port, panel, pace, ...(seed === undefined ? [] : [seed, share])].map(String)
    const child = spawn(process.execPath, ['--enable-source-maps', program('stand-ins', 'main'), ...args], {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      detached: true,
    })
    children.push(child)
    told.push(
      new Promise((resolve, reject) => {
        child.once('message', (message) => resolve(`${message.profile}=${message.port}/${message.panel}`))
        child.once('exit', () => reject(new Error(`The simulated machine ${profile} did not start.`)))
      }),
    )
  }
  const simulated = (await Promise.all(told)).join(',')
  return { simulated, stop: () => children.forEach((child) => void child.kill('SIGTERM')) }
}
