import type { AnswerOf, DeskLive, RunsAsked } from '@neotaxis/contract'
import type { PathName } from '@neotaxis/contract/paths'
import { type BaseQueryFn, createApi } from '@reduxjs/toolkit/query/react'
import { type Asking, ask } from './ask.ts'
import { ServerAway, ServerRefusal } from './call.ts'
import { liveSocket } from './live-socket.ts'

/** Why something is not told. `away`: it may be later. */
export interface Trouble {
  readonly away: boolean
  readonly code: string
  readonly message: string
}

export const troubleOf = (cause: unknown): Trouble => ({
  away: cause instanceof ServerAway,
  code: cause instanceof ServerRefusal ? cause.code : '',
  message: cause instanceof Error ? cause.message : 'It cannot be read.',
})

/** How the machines stand, and whether the server tells it now; else what is here is old. */
export interface Live {
  readonly machines: readonly DeskLive[]
  readonly fresh: boolean
}

const server: BaseQueryFn<{ name: PathName } & Asking, unknown, Trouble> = async ({ name, ...asking }, { signal }) => {
  try {
    return { data: await ask(name, { ...asking, signal }) }
  } catch (cause) {
    return { error: troubleOf(cause) }
  }
}

/** Parts of what the server knows: what changes one makes what was told of it old. */
export const TAGS = [
  'Jobs',
  'Fonts',
  'Materials',
  'Machines',
  'Rules',
  'Library',
  'Runs',
  'People',
  'Stock',
  'Rates',
  'Cameras',
] as const
export type Tag = (typeof TAGS)[number]

/** What the server knows, as the page holds it: asked once, kept, and asked again when it is old. */
export const shop = createApi({
  reducerPath: 'shop',
  baseQuery: server,
  tagTypes: TAGS,
  endpoints: (build) => ({
    jobs: build.query<AnswerOf<'jobs'>['jobs'], string>({
      query: (search) => ({ name: 'jobs', query: { search } }),
      transformResponse: ({ jobs }: AnswerOf<'jobs'>) => jobs,
      providesTags: ['Jobs'],
    }),
    card: build.query<AnswerOf<'card'>, { readonly id: string; readonly revision: number }>({
      query: ({ id }) => ({ name: 'card', params: { id } }),
    }),
    fonts: build.query<AnswerOf<'fonts'>['fonts'], null>({
      query: () => ({ name: 'fonts' }),
      transformResponse: ({ fonts }: AnswerOf<'fonts'>) => fonts,
      providesTags: ['Fonts'],
    }),
    materials: build.query<AnswerOf<'materials'>['materials'], null>({
      query: () => ({ name: 'materials' }),
      transformResponse: ({ materials }: AnswerOf<'materials'>) => materials,
      providesTags: ['Materials'],
    }),
    materialHistory: build.query<AnswerOf<'materialHistory'>['changes'], string>({
      query: (id) => ({ name: 'materialHistory', params: { id } }),
      transformResponse: ({ changes }: AnswerOf<'materialHistory'>) => changes,
      providesTags: ['Materials'],
      keepUnusedDataFor: 5,
    }),
    machines: build.query<AnswerOf<'machines'>['machines'], null>({
      query: () => ({ name: 'machines' }),
      transformResponse: ({ machines }: AnswerOf<'machines'>) => machines,
      providesTags: ['Machines'],
    }),
    machineTimes: build.query<AnswerOf<'machineTimes'>['learned'], string>({
      query: (id) => ({ name: 'machineTimes', params: { id } }),
      transformResponse: ({ learned }: AnswerOf<'machineTimes'>) => learned,
      providesTags: ['Runs', 'Machines'],
    }),
    camera: build.query<AnswerOf<'camera'>['camera'], string>({
      query: (id) => ({ name: 'camera', params: { id } }),
      transformResponse: ({ camera }: AnswerOf<'camera'>) => camera,
      providesTags: ['Cameras'],
    }),
    importRules: build.query<AnswerOf<'importRules'>['rules'], null>({
      query: () => ({ name: 'importRules' }),
      transformResponse: ({ rules }: AnswerOf<'importRules'>) => rules,
      providesTags: ['Rules'],
    }),
    library: build.query<AnswerOf<'library'>['artwork'], null>({
      query: () => ({ name: 'library' }),
      transformResponse: ({ artwork }: AnswerOf<'library'>) => artwork,
      providesTags: ['Library'],
    }),
    artworkJobs: build.query<AnswerOf<'artworkJobs'>['jobs'], string>({
      query: (id) => ({ name: 'artworkJobs', params: { id } }),
      transformResponse: ({ jobs }: AnswerOf<'artworkJobs'>) => jobs,
      providesTags: ['Library'],
      keepUnusedDataFor: 0,
    }),
    runs: build.query<AnswerOf<'runs'>['runs'], Partial<RunsAsked>>({
      query: (asked) => ({ name: 'runs', query: { ...asked } }),
      transformResponse: ({ runs }: AnswerOf<'runs'>) => runs,
      providesTags: ['Runs'],
    }),
    run: build.query<AnswerOf<'run'>, string>({
      query: (id) => ({ name: 'run', params: { id } }),
      providesTags: ['Runs'],
      keepUnusedDataFor: 5,
    }),
    stock: build.query<AnswerOf<'stock'>['stock'], null>({
      query: () => ({ name: 'stock' }),
      transformResponse: ({ stock }: AnswerOf<'stock'>) => stock,
      providesTags: ['Stock'],
    }),
    stockUses: build.query<AnswerOf<'stockUses'>['uses'], { readonly stock?: string; readonly run?: string }>({
      query: (asked) => ({ name: 'stockUses', query: { ...asked } }),
      transformResponse: ({ uses }: AnswerOf<'stockUses'>) => uses,
      providesTags: ['Stock', 'Runs'],
    }),
    stockMonths: build.query<AnswerOf<'stockMonths'>['months'], null>({
      query: () => ({ name: 'stockMonths' }),
      transformResponse: ({ months }: AnswerOf<'stockMonths'>) => months,
      providesTags: ['Stock'],
    }),
    rates: build.query<AnswerOf<'rates'>['rates'], null>({
      query: () => ({ name: 'rates' }),
      transformResponse: ({ rates }: AnswerOf<'rates'>) => rates,
      providesTags: ['Rates'],
    }),
    people: build.query<AnswerOf<'people'>['people'], null>({
      query: () => ({ name: 'people' }),
      transformResponse: ({ people }: AnswerOf<'people'>) => people,
      providesTags: ['People'],
    }),
    live: build.query<Live, null>({
      queryFn: () => ({ data: { machines: [], fresh: false } }),
      keepUnusedDataFor: Number.POSITIVE_INFINITY,
      async onCacheEntryAdded(_, { cacheDataLoaded, cacheEntryRemoved, updateCachedData }) {
        await cacheDataLoaded
        const end = liveSocket({
          told: ({ machines }) => updateCachedData(() => ({ machines, fresh: true })),
          silent: () => updateCachedData(({ machines }) => ({ machines, fresh: false })),
        })
        await cacheEntryRemoved
        end()
      },
    }),
  }),
})

export const {
  useJobsQuery,
  useCardQuery,
  useFontsQuery,
  useMaterialsQuery,
  useMaterialHistoryQuery,
  useMachinesQuery,
  useCameraQuery,
  useImportRulesQuery,
  useMachineTimesQuery,
  useLibraryQuery,
  useArtworkJobsQuery,
  useRunsQuery,
  useRunQuery,
  useLiveQuery,
  usePeopleQuery,
  useStockQuery,
  useStockUsesQuery,
  useStockMonthsQuery,
  useRatesQuery,
} = shop
