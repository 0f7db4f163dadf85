import type { Machine } from '../machine/machine.ts'
import type { Material } from './material.ts'
import birchPly3 from './shipped/birch-ply-3.json' with { type: 'json' }
import birchPly4 from './shipped/birch-ply-4.json' with { type: 'json' }
import birchPly6 from './shipped/birch-ply-6.json' with { type: 'json' }
import castAcrylic3 from './shipped/cast-acrylic-3.json' with { type: 'json' }
import coatedSteel1 from './shipped/coated-steel-1.json' with { type: 'json' }
import floatGlass4 from './shipped/float-glass-4.json' with { type: 'json' }
import glazedTile6 from './shipped/glazed-tile-6.json' with { type: 'json' }
import greyCard1 from './shipped/grey-card-1.json' with { type: 'json' }
import lacqueredBrass1 from './shipped/lacquered-brass-1.json' with { type: 'json' }
import limeWood12 from './shipped/lime-wood-12.json' with { type: 'json' }
import machines from './shipped/machines.json' with { type: 'json' }
import pvcSheet3 from './shipped/pvc-sheet-3.json' with { type: 'json' }
import slate5 from './shipped/slate-5.json' with { type: 'json' }
import syntheticLeather1 from './shipped/synthetic-leather-1.json' with { type: 'json' }
import tannedLeather2 from './shipped/tanned-leather-2.json' with { type: 'json' }
import tinLid03 from './shipped/tin-lid-03.json' with { type: 'json' }

/** The machines that ship: `shipped/machines.json`. */
export const MACHINES = machines as unknown as readonly Machine[]

/** The materials that ship, with the recipes and measurements of the Saltmere workshop: `shipped/`, checked by a test. */
export const MATERIALS = [
  birchPly3,
  castAcrylic3,
  greyCard1,
  floatGlass4,
  limeWood12,
  slate5,
  glazedTile6,
  coatedSteel1,
  lacqueredBrass1,
  tannedLeather2,
  birchPly4,
  birchPly6,
  tinLid03,
  pvcSheet3,
  syntheticLeather1,
] as unknown as readonly Material[]
