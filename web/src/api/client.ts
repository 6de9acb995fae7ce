import * as z from 'zod'
import {
  deliveryFileSchema,
  faultReplySchema,
  healthSchema,
  routes,
  wholeDetail,
  type AcceptPairing,
  type AnswerGot,
  type ApiRoute,
  type AssetChoice,
  type BodySent,
  type BulkRequest,
  type DeliveryFile,
  type EncodeRequest,
  type Fault,
  type Found,
  type Health,
  type GiveWaivers,
  type LibraryFilter,
  type MendRequest,
  type PatternKind,
  type NewDispatch,
  type PartsOf,
  type QuerySent,
  type Recipe,
  type IntakePreset,
  type SaveSizes,
  type ScenePlan,
  type SearchRequest,
  type SetOrigin,
  type SharedSurface,
  type StepData,
  type TakeApart,
  type WholeDetail,
  isShownByBrowsers,
  type TextureFormat,
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

/** What a route of the contract is called with: parts of its address, query and body, as far as it has them. */
type Sent<R extends ApiRoute> = Filled<'parts', PartsOf<R>> &
  Filled<'query', QuerySent<R>> &
  Filled<'body', BodySent<R>> & { signal?: AbortSignal }
type Filled<Name extends string, Type> = unknown extends Type
  ? object
  : undefined extends Type
    ? object
    : Record<Name, Type>

/** Calls a route of the contract and reads its answer. Throws CallFailed. */
async function call<R extends ApiRoute>(route: R, sent: Sent<R>): Promise<AnswerGot<R>> {
  const { parts, query, body, signal } = sent as {
    parts?: Record<string, string>
    query?: Record<string, unknown>
    body?: unknown
    signal?: AbortSignal
  }
  const path = route.path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(parts?.[name] ?? '')),
    asked = queryOf(query ?? {})
  const response = await fetch(`/api${path}${asked && `?${asked}`}`, {
    method: route.method.toUpperCase(),
    ...(body === undefined
      ? {}
      : { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
    ...(signal ? { signal } : {}),
  }).catch((error: unknown) => {
    if ((error as Error).name === 'AbortError') throw error
    throw new CallFailed(unreachable)
  })
  return readAnswer(
    route.gives as z.ZodType,
    response.ok,
    await response.json().catch(() => null),
  ) as AnswerGot<R>
}

const queryOf = (query: Record<string, unknown>): string =>
  Object.entries(query)
    .filter(([, value]) => value !== undefined)
    .map(([key, value]) => `${key}=${encodeURIComponent(String(value))}`)
    .join('&')

function readAnswer<T>(schema: z.ZodType<T>, ok: boolean, body: unknown): T {
  if (ok) return schema.parse(body)
  const fault = faultReplySchema.safeParse(body)
  throw new CallFailed(fault.success ? fault.data.fault : unreachable)
}

/** What the server can do just now; it answers so even while it can do nothing. Null: it does not answer. */
export async function askHealth(): Promise<Health | null> {
  const response = await fetch('/api/health').catch(() => null)
  const parsed = healthSchema.safeParse(await response?.json().catch(() => null))
  return parsed.success ? parsed.data : null
}

export const listProjects = () => call(routes.listProjects, {})
export const createProject = (name: string) => call(routes.createProject, { body: { name } })
export const findNames = (project: string, find: string, what: Found['what'] | null) =>
  call(routes.findNames, { parts: { project }, query: { find, ...(what ? { what } : {}) } })
export const saveSizes = (project: string, body: SaveSizes) =>
  call(routes.saveSizes, { parts: { project }, body })
/** Which assets a list shows, in which order. */
export type LibraryQuery = LibraryFilter & { sort: 'newest' | 'name' }
/** A window of a project's assets. */
export const getLibrary = (project: string, query: LibraryQuery, offset: number, limit: number) =>
  call(routes.getLibrary, { parts: { project }, query: { ...query, offset, limit } })
export const listLibraryIds = (project: string, query: LibraryQuery) =>
  call(routes.listLibraryIds, { parts: { project }, query })
export const getFacets = (project: string, { sort: _, ...query }: LibraryQuery) =>
  call(routes.getFacets, { parts: { project }, query })
export const listDeliveries = (project: string) => call(routes.listDeliveries, { parts: { project } })
export const createDelivery = (project: string, note: string, preset: string | null) =>
  call(routes.createDelivery, {
    parts: { project },
    body: { note, ...(preset === null ? {} : { preset }) },
  })
export const listIntakePresets = (project: string) => call(routes.listIntakePresets, { parts: { project } })
export const saveIntakePreset = (project: string, body: IntakePreset) =>
  call(routes.saveIntakePreset, { parts: { project }, body })
export const removeIntakePreset = (project: string, preset: string) =>
  call(routes.removeIntakePreset, { parts: { project, preset } })
export const chooseIntake = (delivery: string, preset: string | null) =>
  call(routes.chooseIntake, { parts: { delivery }, body: { preset } })
/** A delivery with all its files. */
export const getDelivery = (delivery: string) => call(routes.getDelivery, { parts: { delivery } })
export const continueAsset = (asset: string, note: string) =>
  call(routes.continueAsset, { parts: { asset }, body: { note } })
export const closeDelivery = (delivery: string) => call(routes.closeDelivery, { parts: { delivery } })
export const cancelDelivery = (delivery: string) => call(routes.cancelDelivery, { parts: { delivery } })

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

export const getAsset = (asset: string, version: number | null): Promise<WholeDetail> =>
  call(routes.getAsset, { parts: { asset }, query: version === null ? {} : { version } }).then(wholeDetail)
export const saveRecipe = (asset: string, revision: number, recipe: Recipe): Promise<WholeDetail> =>
  call(routes.saveRecipe, { parts: { asset }, body: { revision, recipe } }).then(wholeDetail)
export const undoRecipe = (asset: string, revision: number): Promise<WholeDetail> =>
  call(routes.undoRecipe, { parts: { asset }, body: { revision } }).then(wholeDetail)
export const previewRecipe = (asset: string, recipe: Recipe, signal: AbortSignal) =>
  call(routes.previewRecipe, { parts: { asset }, body: { recipe }, signal })
export const encodeTexture = (asset: string, body: EncodeRequest, signal: AbortSignal) =>
  call(routes.encodeTexture, { parts: { asset }, body, signal })
export const searchFormats = (asset: string, body: SearchRequest, signal: AbortSignal) =>
  call(routes.searchFormats, { parts: { asset }, body, signal })
export const listEncodings = (asset: string, texture: string) =>
  call(routes.listEncodings, { parts: { asset }, query: { texture } })
export const saveChoice = (asset: string, body: AssetChoice): Promise<WholeDetail> =>
  call(routes.chooseForAsset, { parts: { asset }, body }).then(wholeDetail)
export const getOffers = (project: string, assets: readonly string[]) =>
  call(routes.getOffers, { parts: { project }, body: { assets: [...assets] } })
export const listChanges = (project: string) => call(routes.listChanges, { parts: { project } })
export const planRenames = (project: string, assets: readonly string[]) =>
  call(routes.planRenames, { parts: { project }, body: { assets: [...assets] } })
export const applyToMany = (project: string, body: BulkRequest) =>
  call(routes.applyToMany, { parts: { project }, body })
export const undoMany = (change: string) => call(routes.undoMany, { parts: { change } })
export const listRemedies = () => call(routes.listRemedies, {})
export const getRulePage = (id: string) => {
  const [station = '', rule = ''] = id.split('/')
  return call(routes.getRulePage, { parts: { station, rule } })
}
export const planDispatch = (
  project: string,
  { target, assets }: { target: string; assets: readonly string[] | null },
) => call(routes.planDispatch, { parts: { project }, body: { target, assets: assets && [...assets] } })
export const listDispatches = (project: string) => call(routes.listDispatches, { parts: { project } })
export const createDispatch = (project: string, body: NewDispatch) =>
  call(routes.createDispatch, { parts: { project }, body })
export const getDispatch = (dispatch: string) => call(routes.getDispatch, { parts: { dispatch } })
export const getRulebook = (project: string) => call(routes.getRulebook, { parts: { project } })
export const listRevisions = (project: string) => call(routes.listRevisions, { parts: { project } })
export const getRevision = (project: string, number: number) =>
  call(routes.getRevision, { parts: { project, number: String(number) } })
export const getEffect = (project: string, rulebook: Record<string, unknown>, signal: AbortSignal) =>
  call(routes.getEffect, { parts: { project }, body: { rulebook }, signal })
export const saveRulebook = (
  project: string,
  body: { rulebook: Record<string, unknown>; revision: number; note: string },
) => call(routes.saveRulebook, { parts: { project }, body })
export const getMemory = (project: string, target: string | null) =>
  call(routes.getMemory, { parts: { project }, query: target === null ? {} : { target } })
export const listSurfaces = (project: string) => call(routes.listSurfaces, { parts: { project } })
/** Keeps what a step works with and is too large for its options; gives the name that the step has for it. */
export const keepStepData = async (data: StepData): Promise<string> =>
  (await call(routes.keepStepData, { body: data })).sha256
export const saveSurface = (project: string, surface: string, body: SharedSurface | null) =>
  call(routes.saveSurface, { parts: { project, surface }, body: { surface: body } })
export const readRulebookFile = (project: string, text: string) =>
  call(routes.readRulebookFile, { parts: { project }, body: { text } })
export const getSounding = (
  project: string,
  body: { rule: string; class: string | null; rulebook?: Record<string, unknown> },
) => call(routes.getSounding, { parts: { project }, body })
export const listPatternNames = (project: string, kind: PatternKind) =>
  call(routes.listPatternNames, { parts: { project }, query: { kind } })
export const fitLibrary = (project: string, assets: readonly string[] | null) =>
  call(routes.fitLibrary, { parts: { project }, body: { assets: assets && [...assets] } })
export const listWaivers = (project: string) => call(routes.listWaivers, { parts: { project } })
export const giveWaivers = (project: string, body: GiveWaivers) =>
  call(routes.giveWaivers, { parts: { project }, body })
export const takeWaiverBack = (waiver: string, act: boolean) =>
  call(routes.takeWaiverBack, { parts: { waiver }, query: act ? { act } : {} })
export const getShared = (delivery: string) => call(routes.getShared, { parts: { delivery } })
export const planMending = (project: string, body: MendRequest) =>
  call(routes.planMending, { parts: { project }, body })
export const mendSafely = (project: string, body: MendRequest) =>
  call(routes.mendSafely, { parts: { project }, body })
export const setOrigin = (project: string, body: SetOrigin) =>
  call(routes.setOrigin, { parts: { project }, body })
export const creditsAddress = (dispatch: string, format: 'md' | 'csv'): string =>
  `/api/dispatches/${dispatch}/credits?format=${format}`
export const keepFromBefore = (asset: string) => call(routes.keepFromBefore, { parts: { asset } })
export const openScene = (asset: string) => call(routes.openScene, { parts: { asset } })
export const getScene = (scene: string) => call(routes.getScene, { parts: { scene } })
export const getPairing = (project: string, delivery: string | null, also: readonly string[]) =>
  call(routes.getPairing, {
    parts: { project },
    query: {
      ...(delivery === null ? {} : { delivery }),
      ...(also.length === 0 ? {} : { also: also.join(',') }),
    },
  })
export const getWaiting = (project: string) => call(routes.getWaiting, { parts: { project } })
export const acceptPairing = (project: string, body: AcceptPairing) =>
  call(routes.acceptPairing, { parts: { project }, body })
export const listScenes = (project: string) => call(routes.listScenes, { parts: { project } })
export const takeApart = (scene: string, body: TakeApart) =>
  call(routes.takeApart, { parts: { scene }, body })
/** Pictures of the parts that a plan gives, in one PNG. Throws CallFailed. */
export async function drawParts(scene: string, plan: ScenePlan, signal: AbortSignal): Promise<Blob> {
  const response = await fetch(`/api/scenes/${scene}/pictures`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ plan }),
    signal,
  })
  if (!response.ok) return readAnswer(z.never(), false, await response.json().catch(() => null))
  return response.blob()
}
export const sceneModelAddress = (scene: string, sha: string | null): string =>
  `/api/scenes/${scene}/model?of=${sha ?? ''}`
export const placementsAddress = (scene: string): string => `/api/scenes/${scene}/placements`
export const packageAddress = (id: string): string => `/api/dispatches/${id}/package`
export const blobAddress = (sha: string): string => `/api/blobs/${sha}`
/**
 * A texture as the page can show it: as it is stored, or by way of the server where browsers do not read the
 * format.
 */
export const pictureAddress = (texture: {
  sha256: string | null
  name: string
  facts: { header: { format: TextureFormat; decodes: boolean } } | null
  fault: unknown
}): string | null => {
  if (texture.sha256 === null || texture.fault !== null || !texture.facts || !texture.facts.header.decodes)
    return null
  return isShownByBrowsers(texture.facts.header.format)
    ? blobAddress(texture.sha256)
    : `/api/blobs/${texture.sha256}/picture?name=${encodeURIComponent(texture.name)}`
}
