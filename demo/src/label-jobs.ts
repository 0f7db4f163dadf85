import {
  assetsSupply,
  columnOf,
  type Drawn,
  drawingBounds,
  drawnSvg,
  grouped,
  type JobDocument,
  MACHINES,
  MATERIALS,
  proposalsFor,
  readTable,
  readVectorFile,
  type SourceFacts,
  type TextSpec,
  withArtwork,
} from '@neotaxis/core'

/** The boats of Saltmere's harbour, as the harbour office keeps them. */
export const BOATS = `boat,keeper,berth
Tern,Mara Vey,N 1
Eider,Ilo Sand,N 2
Gannet,Tove Marsh,N 3
Plover,Anders Quay,N 4
Sandpiper,Runa Holm,S 1
Fulmar,Bo Reef,S 2
Dunlin,Ysa Strand,S 3
Kittiwake,Per Skerry,S 4
Turnstone,Alma Spit,S 5
`

const COLUMNS = 3
const ROWS = 3
const LABEL = { widthMm: 82, heightMm: 28 }
const PITCH = { x: 88, y: 34 }

/** A label for every boat: its name, in single strokes. */
export const LABEL_NAMES: TextSpec = {
  kind: 'text',
  text: 'BOAT {}',
  font: { kind: 'strokes' },
  capMm: 6,
  letterMm: 0.4,
  lineShare: 1.6,
  align: 'middle',
  series: { entries: columnOf(readTable(BOATS), 0), columns: COLUMNS, pitchXMm: PITCH.x, pitchYMm: PITCH.y },
}

/** The labels' edges. */
export const LABEL_EDGES: Drawn = {
  kind: 'rectangle',
  ...LABEL,
  radiusMm: 5,
  repeat: { kind: 'grid', columns: COLUMNS, rows: ROWS, pitchXMm: PITCH.x, pitchYMm: PITCH.y },
}

/** The drawing file of what is drawn by numbers. */
export const drawnFile = (drawn: Drawn): Uint8Array => new TextEncoder().encode(drawnSvg(drawn).svg)

/** Nine labels for the boat shed on birch ply: names of a list scored, edges cut last; both move as one. */
export function boatLabelsJob(names: SourceFacts, edges: SourceFacts): JobDocument {
  const settings = {
    workpiece: { widthMm: 300, heightMm: 130, thicknessMm: 3 },
    material: MATERIALS.find(({ id }) => id === 'birch-ply-3')!,
    machine: MACHINES[0],
  }
  const jobOf = (facts: SourceFacts, drawn: Drawn, proposal: string): JobDocument => {
    const supply = assetsSupply(() => drawnFile(drawn))
    return proposalsFor({ ...facts, drawn }, settings, supply).find(({ id }) => id === proposal)!.job
  }
  const scored = jobOf(names, LABEL_NAMES, 'score-lines')
  const cut = jobOf(edges, LABEL_EDGES, 'cut-lines')
  // Every name in the middle of its label: the first text's origin lies in the middle of the first edge.
  const { xMm, yMm } = cut.placements.source
  const { x0, y0 } = drawingBounds(readVectorFile(drawnFile(LABEL_NAMES)))
  const source = {
    ...scored.placements.source,
    xMm: xMm + LABEL.widthMm / 2 + x0,
    yMm: yMm + LABEL.heightMm / 2 + LABEL_NAMES.capMm / 2 + y0,
  }
  const named = { ...scored, placements: { source } }
  return { ...grouped(withArtwork(named, cut, 'edges'), 'source', 'source-edges', 'labels'), name: 'Boat shed labels' }
}
