// Part of `npm run kernels`: makes the blue-noise tile that ships. Run by tsx, since the core is TypeScript.
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { voidAndCluster } from '../core/src/picture/void-and-cluster.ts'
import { root } from './prepare.mjs'

const bytes = Buffer.from(voidAndCluster(64, 20).buffer)
writeFileSync(
  join(root, 'core/src/picture/blue-noise-tile.ts'),
  `// Made by scripts/blue-noise.mjs: do not change it here.\nexport const BLUE_NOISE =\n  '${bytes.toString('base64')}'\n`,
)
