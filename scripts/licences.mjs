// Every package that ships must have a permissive licence. Tools for development and tests are not shipped.
import { execFileSync } from 'node:child_process'
import { root } from './prepare.mjs'

const PERMISSIVE = new Set([
  'MIT',
  'ISC',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'Apache-2.0',
  'BSL-1.0',
  '0BSD',
  'OFL-1.1',
  'Unlicense',
  'CC0-1.0',
  'BlueOak-1.0.0',
  'Zlib',
  'Python-2.0',
  // Used as it is, unmodified: it asks for no more of who uses it.
  'MPL-2.0',
])

/** “(MIT OR GPL-3.0)” is fine where one of them is; “MIT AND Zlib” where both are. */
function permissive(licence) {
  const clean = licence.replace(/[()]/g, '').trim()
  if (clean.includes(' OR ')) return clean.split(' OR ').some(permissive)
  if (clean.includes(' AND ')) return clean.split(' AND ').every(permissive)
  return PERMISSIVE.has(clean)
}

/** A library that is loaded as it is, a package of its own that anybody may put another one in the place of: what the LGPL asks for. */
const isLoaded = ({ name, license }) => /^@img\/sharp-libvips-/.test(name) && license === 'LGPL-3.0-or-later'

const shipped = ['core', 'contract', 'intake', 'link', 'stand-ins', 'cli', 'server', 'web', 'demo']
const listed = JSON.parse(
  execFileSync('npm', ['query', ':not(.dev)', '--loglevel=error'], { cwd: root, encoding: 'utf8', maxBuffer: 1 << 28 }),
)
const bad = listed
  .filter(({ location, path }) => location && path && location.startsWith('node_modules/') && !location.endsWith('neotaxis'))
  .filter(({ name, isWorkspace }) => !isWorkspace && !name.startsWith('@neotaxis/'))
  .map(({ name, version, license }) => ({
    name,
    version,
    license: typeof license === 'string' ? license : (license?.type ?? 'none'),
  }))
  .filter((each) => !permissive(each.license) && !isLoaded(each))
if (listed.length < 50) throw new Error(`Only ${listed.length} packages were found; expected those of ${shipped.join(', ')}.`)
for (const { name, version, license } of bad) process.stderr.write(`${name}@${version}: ${license}\n`)
process.stdout.write(`${listed.length} packages ship, ${bad.length} without a permissive licence\n`)
process.exitCode = bad.length === 0 ? 0 : 1
