import * as z from 'zod'
import {
  assetDetailSchema,
  bulkChangeSchema,
  deliverySchema,
  dispatchDetailSchema,
  dispatchPlanSchema,
  dispatchSchema,
  deliveryFileSchema,
  facetsSchema,
  faultReplySchema,
  healthSchema,
  libraryPageSchema,
  offersSchema,
  intakePresetSchema,
  previewSchema,
  projectSchema,
  remedyInfoSchema,
  rulePageSchema,
  type BulkChange,
  type BulkRequest,
  type RenamePlan,
  renamePlanSchema,
  type Delivery,
  type DeliveryFile,
  type Dispatch,
  type DispatchDetail,
  type DispatchPlan,
  type NewDispatch,
  type Facets,
  type Fault,
  type LibraryFilter,
  type LibraryPage,
  type Offers,
  type Found,
  type Health,
  foundSchema,
  type IntakePreset,
  type Preview,
  type Project,
  type Recipe,
  type RemedyInfo,
  type SaveIntakePreset,
  type SaveSizes,
  type WholeDetail,
  wholeDetail,
} from '@stern-gate/contract'
import { uploadFiles } from './uploadFiles'

/** What a call throws when the server answers with a fault, or does not answer. */
export class CallFailed extends Error {
  constructor(readonly fault: Fault) {
    super(fault.why)
  }
}

const unreachable: Fault = {
  code: 'server/failed',
  why: 'The server does not answer.',
  hint: 'Check that it runs; this page goes on by itself when it is back.',
  where: {},
}

async function call<T>(schema: z.ZodType<T>, path: string, init: RequestInit = {}): Promise<T> {
  const response = await fetch(`/api${path}`, init).catch((error: unknown) => {
    if ((error as Error).name === 'AbortError') throw error
    throw new CallFailed(unreachable)
  })
  return readAnswer(schema, response.ok, await response.json().catch(() => null))
}

function readAnswer<T>(schema: z.ZodType<T>, ok: boolean, body: unknown): T {
  if (ok) return schema.parse(body)
  const fault = faultReplySchema.safeParse(body)
  throw new CallFailed(fault.success ? fault.data.fault : unreachable)
}

const json = (method: string, body: unknown, signal?: AbortSignal): RequestInit => ({
  method,
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
  ...(signal ? { signal } : {}),
})

/** What the server can do just now; it answers so even while it can do nothing. Null: it does not answer. */
export async function askHealth(): Promise<Health | null> {
  const response = await fetch('/api/health').catch(() => null)
  const parsed = healthSchema.safeParse(await response?.json().catch(() => null))
  return parsed.success ? parsed.data : null
}

export const listProjects = (): Promise<Project[]> => call(projectSchema.array(), '/projects')
export const createProject = (name: string): Promise<Project> =>
  call(projectSchema, '/projects', json('POST', { name }))
export const findNames = (project: string, find: string, what: Found['what'] | null): Promise<Found[]> =>
  call(
    foundSchema.array(),
    `/projects/${project}/names?find=${encodeURIComponent(find)}${what ? `&what=${what}` : ''}`,
  )
export const saveSizes = (project: string, sizes: SaveSizes): Promise<Project> =>
  call(projectSchema, `/projects/${project}/sizes`, json('PATCH', sizes))
/** Which assets a list shows, in which order. */
export type LibraryQuery = LibraryFilter & { sort: 'newest' | 'name' }
const queryOf = (query: Record<string, unknown>): string =>
  Object.entries(query)
    .filter(([, value]) => value !== undefined)
    .map(([key, value]) => `${key}=${encodeURIComponent(String(value))}`)
    .join('&')
/** A window of a project's assets. */
export const getLibrary = (
  project: string,
  query: LibraryQuery,
  offset: number,
  limit: number,
): Promise<LibraryPage> =>
  call(libraryPageSchema, `/projects/${project}/library?${queryOf({ ...query, offset, limit })}`)
export const listLibraryIds = (project: string, query: LibraryQuery): Promise<string[]> =>
  call(z.array(z.string()), `/projects/${project}/library/ids?${queryOf(query)}`)
export const getFacets = (project: string, { sort: _, ...filter }: LibraryQuery): Promise<Facets> =>
  call(facetsSchema, `/projects/${project}/facets?${queryOf(filter)}`)
export const listDeliveries = (project: string): Promise<Delivery[]> =>
  call(deliverySchema.array(), `/projects/${project}/deliveries`)
export const createDelivery = (project: string, note: string, preset: string | null): Promise<Delivery> =>
  call(
    deliverySchema,
    `/projects/${project}/deliveries`,
    json('POST', { note, ...(preset === null ? {} : { preset }) }),
  )
export const listIntakePresets = (project: string): Promise<IntakePreset[]> =>
  call(intakePresetSchema.array(), `/projects/${project}/intake-presets`)
export const saveIntakePreset = (project: string, preset: SaveIntakePreset): Promise<IntakePreset> =>
  call(intakePresetSchema, `/projects/${project}/intake-presets`, json('PUT', preset))
export const removeIntakePreset = (id: string): Promise<unknown> =>
  call(z.unknown(), `/intake-presets/${id}`, { method: 'DELETE' })
export const chooseIntake = (delivery: string, preset: string | null): Promise<Delivery> =>
  call(deliverySchema, `/deliveries/${delivery}/intake`, json('PUT', { preset }))
/** A delivery with all its files. */
export const getDelivery = (id: string) =>
  call(deliverySchema.extend({ all: deliveryFileSchema.array() }), `/deliveries/${id}`)
export const continueAsset = (asset: string, note: string): Promise<Delivery> =>
  call(deliverySchema, `/assets/${asset}/deliveries`, json('POST', { note }))
export const closeDelivery = (id: string): Promise<Delivery> =>
  call(deliverySchema, `/deliveries/${id}/close`, json('POST', {}))
export const cancelDelivery = (id: string): Promise<Delivery> =>
  call(deliverySchema, `/deliveries/${id}/cancel`, json('POST', {}))

/** Sends some files of a delivery in one request. */
export async function sendFiles(
  delivery: string,
  files: readonly { path: string; file: File }[],
  signal: AbortSignal,
): Promise<DeliveryFile[]> {
  const { status, body } = await uploadFiles(`/api/deliveries/${delivery}/files`, files, signal)
  if (status === null) throw new CallFailed(unreachable)
  return readAnswer(deliveryFileSchema.array(), status < 300, body)
}

const benchDetailSchema = assetDetailSchema.transform(wholeDetail)
export const getAsset = (id: string, version: number | null): Promise<WholeDetail> =>
  call(benchDetailSchema, `/assets/${id}${version === null ? '' : `?version=${version}`}`)
export const saveRecipe = (id: string, revision: number, recipe: Recipe): Promise<WholeDetail> =>
  call(benchDetailSchema, `/assets/${id}/recipe`, json('PUT', { revision, recipe }))
export const undoRecipe = (id: string, revision: number): Promise<WholeDetail> =>
  call(benchDetailSchema, `/assets/${id}/undo`, json('POST', { revision }))
export const previewRecipe = (id: string, recipe: Recipe, signal: AbortSignal): Promise<Preview> =>
  call(previewSchema, `/assets/${id}/preview`, json('POST', { recipe }, signal))
export const saveChoice = (
  id: string,
  choice: { class?: string | null; target?: string | null },
): Promise<WholeDetail> => call(benchDetailSchema, `/assets/${id}`, json('PATCH', choice))
export const getOffers = (project: string, assets: readonly string[]): Promise<Offers> =>
  call(offersSchema, `/projects/${project}/offers`, json('POST', { assets }))
export const listChanges = (project: string): Promise<BulkChange[]> =>
  call(bulkChangeSchema.array(), `/projects/${project}/changes`)
export const planRenames = (project: string, assets: readonly string[]): Promise<RenamePlan[]> =>
  call(renamePlanSchema.array(), `/projects/${project}/renames`, json('POST', { assets }))
export const applyToMany = (project: string, body: BulkRequest): Promise<BulkChange> =>
  call(bulkChangeSchema, `/projects/${project}/changes`, json('POST', body))
export const undoMany = (change: string): Promise<BulkChange> =>
  call(bulkChangeSchema, `/changes/${change}/undo`, json('POST', {}))
export const listRemedies = (): Promise<RemedyInfo[]> => call(remedyInfoSchema.array(), '/remedies')
export const getRulePage = (rule: string): Promise<{ rule: string; text: string }> =>
  call(rulePageSchema, `/rules/${rule}`)
export const planDispatch = (
  project: string,
  choice: { target: string; assets: readonly string[] | null },
): Promise<DispatchPlan> =>
  call(dispatchPlanSchema, `/projects/${project}/dispatch-plan`, json('POST', choice))
export const listDispatches = (project: string): Promise<Dispatch[]> =>
  call(dispatchSchema.array(), `/projects/${project}/dispatches`)
export const createDispatch = (project: string, body: NewDispatch): Promise<DispatchDetail> =>
  call(dispatchDetailSchema, `/projects/${project}/dispatches`, json('POST', body))
export const getDispatch = (id: string): Promise<DispatchDetail> =>
  call(dispatchDetailSchema, `/dispatches/${id}`)
export const packageAddress = (id: string): string => `/api/dispatches/${id}/package`
export const blobAddress = (sha: string): string => `/api/blobs/${sha}`
/**
 * A texture as the page can show it: as it is stored, or by way of the server where browsers do not read the
 * format.
 */
export const pictureAddress = (texture: {
  sha256: string | null
  name: string
  facts: { header: { format: string; decodes: boolean } } | null
  fault: unknown
}): string | null => {
  if (texture.sha256 === null || texture.fault !== null || !texture.facts || !texture.facts.header.decodes)
    return null
  return ['png', 'jpeg', 'webp'].includes(texture.facts.header.format)
    ? blobAddress(texture.sha256)
    : `/api/blobs/${texture.sha256}/picture?name=${encodeURIComponent(texture.name)}`
}
