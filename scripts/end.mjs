/** Ends a program that was started here: asked first, then for good. @returns when it is gone, whatever it does */
export async function endProcess(child, graceMs) {
  if (child.exitCode !== null || child.signalCode !== null) return
  const gone = new Promise((resolve) => child.once('exit', resolve))
  child.kill('SIGTERM')
  let timer
  await Promise.race([
    gone,
    new Promise((resolve) => {
      timer = setTimeout(resolve, graceMs)
    }),
  ])
  clearTimeout(timer)
  if (child.exitCode !== null || child.signalCode !== null) return
  // It does not answer: nothing that it holds may keep the next start from its port.
  child.kill('SIGKILL')
  await gone
}
