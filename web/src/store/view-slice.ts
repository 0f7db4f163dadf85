import type { LengthUnit, SpeedUnit, StockPiece } from '@neotaxis/core'
import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

/** A piece of artwork, an operation, or another step of the line. */
export type Selection = { readonly kind: 'operation' | 'node' | 'step'; readonly id: string } | null
/** What the stage shows: the workpiece after the burn, or the artwork itself with white told from transparent. */
export type StageShows = 'forecast' | 'artwork'
/** The point of the selection that stays when its size or place is typed: −1, 0, 1 each way. */
export interface Anchor {
  readonly h: -1 | 0 | 1
  readonly v: -1 | 0 | 1
}

interface ViewState {
  readonly lengthUnit: LengthUnit
  readonly speedUnit: SpeedUnit
  readonly theme: 'light' | 'dark' | 'system'
  readonly selection: Selection
  /** The workpiece that is looked at, where a job has several; null: its first. */
  readonly piece: string | null
  /** Nodes that are selected beside it. */
  readonly also: readonly string[]
  /** Steps of the line that are selected beside it. */
  readonly blocks: readonly string[]
  /** Operations that the stage does not show for now. */
  readonly hidden: readonly string[]
  /** Groups of the line that are folded to one block. */
  readonly foldedGroups: readonly string[]
  readonly shows: StageShows
  /** What is round is seen as it turns, not laid flat. */
  readonly turning: boolean
  readonly anchor: Anchor
  /** The operation whose settings were taken along, to give them to others. */
  readonly taken: string | null
  /** Ways to fill an area are shown side by side. */
  readonly comparing: boolean
  /** Screen pixels (CSS) on one real millimetre, measured once with a ruler; undefined until then. */
  readonly screenPxPerMm: number | undefined
  /** Panels that are folded to their edge. */
  readonly folded: readonly string[]
  /** The one panel that is open where there is no room beside the stage. */
  readonly peeked: string | null
  /** What a new job was begun on last. */
  readonly begun: { readonly materialId: string; readonly machineId: string; readonly widthMm: number; readonly heightMm: number }
  /** The piece of stock that the next job is begun on. */
  readonly begunStock: StockPiece | null
  /** Who works at this screen; empty until somebody says so. */
  readonly operator: string
  /** How far artwork keeps from the edge of its workpiece where it is put there, mm. */
  readonly marginMm: number
  /** How far pieces keep from each other where they are laid out, mm. */
  readonly spacingMm: number
  /** What several pieces of artwork are lined up by. */
  readonly linedUpBy: 'each other' | 'the workpiece'
  /** The guided first job: offered to who is new, under way, or left. */
  readonly guide: 'offered' | 'on' | 'left'
}

const KEY = 'neotaxis.view'

function kept(): Partial<ViewState> {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<ViewState>
  } catch {
    return {}
  }
}

const initialState: ViewState = {
  lengthUnit: 'mm',
  speedUnit: 'mm/s',
  theme: 'system',
  shows: 'forecast',
  screenPxPerMm: undefined,
  folded: [],
  peeked: null,
  begunStock: null,
  begun: { materialId: 'birch-ply-3', machineId: 'bench-60', widthMm: 300, heightMm: 200 },
  operator: '',
  marginMm: 5,
  spacingMm: 2,
  linedUpBy: 'each other',
  guide: 'offered',
  ...kept(),
  selection: null,
  piece: null,
  also: [],
  blocks: [],
  hidden: [],
  foldedGroups: [],
  anchor: { h: 0, v: 0 },
  comparing: false,
  turning: false,
  taken: null,
}

const slice = createSlice({
  name: 'view',
  initialState,
  reducers: {
    lengthUnitChosen(state, { payload }: PayloadAction<LengthUnit>) {
      state.lengthUnit = payload
      if (payload === 'in' && state.speedUnit.startsWith('mm')) state.speedUnit = state.speedUnit === 'mm/s' ? 'in/s' : 'in/min'
      if (payload === 'mm' && state.speedUnit.startsWith('in')) state.speedUnit = state.speedUnit === 'in/s' ? 'mm/s' : 'mm/min'
    },
    speedUnitChosen(state, { payload }: PayloadAction<SpeedUnit>) {
      state.speedUnit = payload
    },
    guided(state, { payload }: PayloadAction<ViewState['guide']>) {
      state.guide = payload
    },
    themeChosen(state, { payload }: PayloadAction<ViewState['theme']>) {
      state.theme = payload
    },
    selected(state, { payload }: PayloadAction<Selection>) {
      if (state.selection?.id !== payload?.id || state.selection?.kind !== payload?.kind) state.anchor = { h: 0, v: 0 }
      state.selection = payload
      state.also = []
      state.blocks = []
    },
    /** Another workpiece is looked at: what lies on it can be chosen. */
    pieceLookedAt(state, { payload }: PayloadAction<string | null>) {
      if (state.piece === payload) return
      state.piece = payload
      state.selection = null
      state.also = []
      state.blocks = []
    },
    /** Several steps of the line at once, by their ids; the selection itself is another matter. */
    blocksSelected(state, { payload }: PayloadAction<readonly string[]>) {
      state.blocks = [...payload]
    },
    /** The stage shows all operations but these. */
    hidden(state, { payload }: PayloadAction<readonly string[]>) {
      state.hidden = [...payload]
    },
    groupFolded(state, { payload: { name, isFolded } }: PayloadAction<{ name: string; isFolded: boolean }>) {
      state.foldedGroups = [...state.foldedGroups.filter((one) => one !== name), ...(isFolded ? [name] : [])]
    },
    settingsTaken(state, { payload }: PayloadAction<string>) {
      state.taken = payload
    },
    turningShown(state, { payload }: PayloadAction<boolean>) {
      state.turning = payload
    },
    comparing(state, { payload }: PayloadAction<boolean>) {
      state.comparing = payload
    },
    /** Several pieces of artwork at once; the last one is that whose details are shown. */
    severalSelected(state, { payload }: PayloadAction<readonly string[]>) {
      const id = payload.at(-1)
      state.selection = id === undefined ? null : { kind: 'node', id }
      state.also = payload.slice(0, -1)
      state.blocks = []
      state.anchor = { h: 0, v: 0 }
    },
    stageShows(state, { payload }: PayloadAction<StageShows>) {
      state.shows = payload
    },
    anchored(state, { payload }: PayloadAction<Anchor>) {
      state.anchor = payload
    },
    peeked(state, { payload }: PayloadAction<string | null>) {
      state.peeked = payload
    },
    folded(state, { payload: { name, isFolded } }: PayloadAction<{ name: string; isFolded: boolean }>) {
      state.folded = [...state.folded.filter((one) => one !== name), ...(isFolded ? [name] : [])]
    },
    begunOn(state, { payload }: PayloadAction<Partial<ViewState['begun']>>) {
      state.begun = { ...state.begun, ...payload }
    },
    begunOnStock(state, { payload }: PayloadAction<StockPiece | null>) {
      state.begunStock = payload as ViewState['begunStock'] as never
    },
    operatorNamed(state, { payload }: PayloadAction<string>) {
      state.operator = payload.trim().slice(0, 60)
    },
    marginChosen(state, { payload }: PayloadAction<number>) {
      state.marginMm = payload
    },
    spacingChosen(state, { payload }: PayloadAction<number>) {
      state.spacingMm = payload
    },
    linedUpBy(state, { payload }: PayloadAction<ViewState['linedUpBy']>) {
      state.linedUpBy = payload
    },
    screenMeasured(state, { payload }: PayloadAction<number>) {
      state.screenPxPerMm = payload
    },
  },
})

export const {
  lengthUnitChosen,
  speedUnitChosen,
  themeChosen,
  guided,
  selected,
  severalSelected,
  blocksSelected,
  hidden,
  groupFolded,
  stageShows,
  comparing,
  settingsTaken,
  anchored,
  operatorNamed,
  screenMeasured,
  marginChosen,
  spacingChosen,
  linedUpBy,
  begunOn,
  begunOnStock,
  pieceLookedAt,
  folded,
  peeked,
  turningShown,
} = slice.actions
export const viewReducer = slice.reducer

/** Keeps what belongs to this screen and person across reloads. */
export function keepView({
  lengthUnit,
  speedUnit,
  theme,
  screenPxPerMm,
  folded,
  begun,
  operator,
  marginMm,
  spacingMm,
  guide,
}: ViewState): void {
  try {
    localStorage.setItem(
      KEY,
      JSON.stringify({ lengthUnit, speedUnit, theme, screenPxPerMm, folded, begun, operator, marginMm, spacingMm, guide }),
    )
  } catch {
    // No room: it is asked for again after a reload, and nothing else depends on it.
  }
}
