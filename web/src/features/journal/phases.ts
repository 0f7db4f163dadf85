/** How a run stands or ended, in the shop's words. */
export const PHASE_NAMES: Readonly<Record<string, string>> = {
  starting: 'starting',
  running: 'running',
  armed: 'armed',
  paused: 'planned pause',
  held: 'held',
  lid: 'lid open',
  homing: 'to be homed',
  away: 'connection lost',
  open: 'under way',
  done: 'to its end',
  stopped: 'stopped',
  refused: 'refused by the machine',
  lost: 'place lost',
  carried: 'carried to the machine',
  shifted: 'set at the machine',
}
