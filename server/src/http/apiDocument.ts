import { extendZodWithOpenApi, OpenAPIRegistry, OpenApiGeneratorV31 } from '@asteasolutions/zod-to-openapi'
import * as z from 'zod'
import {
  applicationVersion,
  assetChoiceSchema,
  assetDetailSchema,
  assetRowSchema,
  bulkChangeSchema,
  bulkRequestSchema,
  chooseIntakeSchema,
  deliveryFileSchema,
  dispatchChoiceSchema,
  dispatchDetailSchema,
  dispatchPlanSchema,
  dispatchSchema,
  newDispatchSchema,
  deliverySchema,
  eventSchema,
  faultReplySchema,
  findRequestSchema,
  foundSchema,
  healthSchema,
  intakePresetSchema,
  facetsSchema,
  libraryFilterSchema,
  libraryPageSchema,
  libraryQuerySchema,
  newDeliverySchema,
  offersRequestSchema,
  offersSchema,
  newProjectSchema,
  previewRequestSchema,
  previewSchema,
  projectSchema,
  remedyInfoSchema,
  renamePlanRequestSchema,
  renamePlanSchema,
  rulePageSchema,
  saveIntakePresetSchema,
  saveRecipeSchema,
  saveSizesSchema,
  undoSchema,
  versionQuerySchema,
} from '@stern-gate/contract'

extendZodWithOpenApi(z)

type Method = 'get' | 'post' | 'put' | 'patch' | 'delete'
type Answer = z.ZodType | 'bytes' | 'events'

export interface ApiRoute {
  method: Method
  path: string
  group: string
  does: string
  takes?: z.ZodType | 'files'
  query?: z.ZodObject
  gives: Answer
  status?: number
}

const page = z.object({
  limit: z.int().min(1).max(500).default(200),
  before: z.string().describe('updated and id of the last row of the page before, joined by |').optional(),
})

/**
 * Every route of the API with what it takes and gives, by the same schemas that check it. A test holds this
 * list against the router.
 */
export const apiRoutes: readonly ApiRoute[] = [
  {
    method: 'get',
    path: '/health',
    group: 'Server',
    does: 'Whether store, database and queue work; 503 while one of them does not.',
    gives: healthSchema,
  },
  {
    method: 'get',
    path: '/openapi.json',
    group: 'Server',
    does: 'This description as OpenAPI 3.1.',
    gives: z.looseObject({}),
  },
  { method: 'get', path: '/docs', group: 'Server', does: 'This description as a page.', gives: 'bytes' },
  {
    method: 'get',
    path: '/rules/{station}/{rule}',
    group: 'Server',
    does: 'The page of a rule, made from the rule itself.',
    gives: rulePageSchema,
  },
  {
    method: 'get',
    path: '/remedies',
    group: 'Server',
    does: 'All remedies, with what can be chosen of each.',
    gives: remedyInfoSchema.array(),
  },
  {
    method: 'get',
    path: '/projects',
    group: 'Projects',
    does: 'Lists the projects, newest first.',
    gives: projectSchema.array(),
  },
  {
    method: 'post',
    path: '/projects',
    group: 'Projects',
    does: 'Makes a project with the default rulebook.',
    takes: newProjectSchema,
    gives: projectSchema,
    status: 201,
  },
  {
    method: 'get',
    path: '/projects/{project}',
    group: 'Projects',
    does: 'One project.',
    gives: projectSchema,
  },
  {
    method: 'patch',
    path: '/projects/{project}/sizes',
    group: 'Projects',
    does: 'Sets the reference person and the step of the grid, as a revision of the rulebook.',
    takes: saveSizesSchema,
    gives: projectSchema,
  },
  {
    method: 'get',
    path: '/projects/{project}/events',
    group: 'Projects',
    does: 'What happens, as server-sent events; resumes by Last-Event-ID.',
    gives: 'events',
  },
  {
    method: 'get',
    path: '/projects/{project}/deliveries',
    group: 'Deliveries',
    does: 'The newest deliveries with their progress.',
    gives: deliverySchema.array(),
  },
  {
    method: 'post',
    path: '/projects/{project}/deliveries',
    group: 'Deliveries',
    does: 'Begins a delivery.',
    takes: newDeliverySchema,
    gives: deliverySchema,
    status: 201,
  },
  {
    method: 'get',
    path: '/deliveries/{delivery}',
    group: 'Deliveries',
    does: 'One delivery with all its files.',
    gives: deliverySchema.extend({ all: deliveryFileSchema.array() }),
  },
  {
    method: 'post',
    path: '/deliveries/{delivery}/files',
    group: 'Deliveries',
    does: 'Takes files as multipart/form-data; a field path before each file gives its path in the delivery.',
    takes: 'files',
    gives: deliveryFileSchema.array(),
    status: 201,
  },
  {
    method: 'post',
    path: '/deliveries/{delivery}/close',
    group: 'Deliveries',
    does: 'Nothing more comes: measuring begins.',
    gives: deliverySchema,
  },
  {
    method: 'post',
    path: '/deliveries/{delivery}/cancel',
    group: 'Deliveries',
    does: 'Stops a delivery; files not yet measured are set aside.',
    gives: deliverySchema,
  },
  {
    method: 'put',
    path: '/deliveries/{delivery}/intake',
    group: 'Deliveries',
    does: 'Chooses the preset that a delivery is taken in by; what it brought already is taken in anew.',
    takes: chooseIntakeSchema,
    gives: deliverySchema,
  },
  {
    method: 'get',
    path: '/projects/{project}/intake-presets',
    group: 'Deliveries',
    does: 'The intake presets of a project.',
    gives: intakePresetSchema.array(),
  },
  {
    method: 'put',
    path: '/projects/{project}/intake-presets',
    group: 'Deliveries',
    does: 'Saves an intake preset under its name.',
    takes: saveIntakePresetSchema,
    gives: intakePresetSchema,
  },
  {
    method: 'delete',
    path: '/intake-presets/{preset}',
    group: 'Deliveries',
    does: 'Takes an intake preset out; recipes keep what it said.',
    gives: z.strictObject({ ok: z.boolean() }),
  },
  {
    method: 'get',
    path: '/projects/{project}/library',
    group: 'Assets',
    does: 'A window of the assets, filtered and sorted.',
    query: libraryQuerySchema,
    gives: libraryPageSchema,
  },
  {
    method: 'get',
    path: '/projects/{project}/library/ids',
    group: 'Assets',
    does: 'Ids of all assets that fit, in the order of the list.',
    query: libraryQuerySchema,
    gives: z.array(z.uuid()),
  },
  {
    method: 'get',
    path: '/projects/{project}/facets',
    group: 'Assets',
    does: 'How many assets each value of each facet has.',
    query: libraryFilterSchema,
    gives: facetsSchema,
  },
  {
    method: 'get',
    path: '/projects/{project}/assets',
    group: 'Assets',
    does: 'A page of assets, newest first.',
    query: page,
    gives: assetRowSchema.array(),
  },
  {
    method: 'get',
    path: '/assets/{asset}',
    group: 'Assets',
    does: 'Everything that the bench shows of an asset.',
    query: versionQuerySchema,
    gives: assetDetailSchema,
  },
  {
    method: 'patch',
    path: '/assets/{asset}',
    group: 'Assets',
    does: 'Chooses class or target.',
    takes: assetChoiceSchema,
    gives: assetDetailSchema,
  },
  {
    method: 'post',
    path: '/assets/{asset}/deliveries',
    group: 'Assets',
    does: 'Begins a delivery that holds the files of the newest version already: what is sent to it completes them, and becomes the next version.',
    takes: newDeliverySchema,
    gives: deliverySchema,
    status: 201,
  },
  {
    method: 'put',
    path: '/assets/{asset}/recipe',
    group: 'Assets',
    does: 'Keeps a new recipe; refused when somebody else was faster.',
    takes: saveRecipeSchema,
    gives: assetDetailSchema,
  },
  {
    method: 'post',
    path: '/assets/{asset}/undo',
    group: 'Assets',
    does: 'Takes the last change of the recipe back.',
    takes: undoSchema,
    gives: assetDetailSchema,
  },
  {
    method: 'post',
    path: '/assets/{asset}/preview',
    group: 'Assets',
    does: 'What a recipe would make, without keeping it.',
    takes: previewRequestSchema,
    gives: previewSchema,
  },
  {
    method: 'get',
    path: '/assets/{asset}/model',
    group: 'Bytes',
    does: 'One GLB of what arrived, with every picture inside.',
    query: versionQuerySchema,
    gives: 'bytes',
  },
  {
    method: 'get',
    path: '/assets/{asset}/output',
    group: 'Bytes',
    does: 'What the newest recipe makes: one file, or a zip of several.',
    gives: 'bytes',
  },
  {
    method: 'get',
    path: '/outputs/{key}/model',
    group: 'Bytes',
    does: 'One GLB of what a recipe made.',
    gives: 'bytes',
  },
  {
    method: 'get',
    path: '/blobs/{sha}',
    group: 'Bytes',
    does: 'Stored bytes by their SHA-256.',
    gives: 'bytes',
  },
  {
    method: 'get',
    path: '/blobs/{sha}/picture',
    group: 'Bytes',
    does: 'A stored texture as PNG.',
    query: z.object({
      name: z.string().describe('file name, for formats without a mark of their own').optional(),
    }),
    gives: 'bytes',
  },
  {
    method: 'get',
    path: '/projects/{project}/names',
    group: 'Assets',
    does: 'Names of the project that hold what was typed: of assets, textures, slots, nodes, clips and files; the best 60.',
    query: findRequestSchema,
    gives: foundSchema.array(),
  },
  {
    method: 'post',
    path: '/projects/{project}/offers',
    group: 'Many at once',
    does: 'Which remedies chosen assets could take, and how many of them.',
    takes: offersRequestSchema,
    gives: offersSchema,
  },
  {
    method: 'get',
    path: '/projects/{project}/changes',
    group: 'Many at once',
    does: 'The newest changes of many assets.',
    gives: bulkChangeSchema.array(),
  },
  {
    method: 'post',
    path: '/projects/{project}/changes',
    group: 'Many at once',
    does: 'Applies one remedy to all findings of a rule on many assets, or steps as a person looked them over, as one act.',
    takes: bulkRequestSchema,
    gives: bulkChangeSchema,
    status: 201,
  },
  {
    method: 'post',
    path: '/projects/{project}/renames',
    group: 'Many at once',
    does: 'What findings of these assets propose to rename, with every name and reference that would go along; changes nothing.',
    takes: renamePlanRequestSchema,
    gives: renamePlanSchema.array(),
  },
  {
    method: 'post',
    path: '/changes/{change}/undo',
    group: 'Many at once',
    does: 'Takes such an act back.',
    gives: bulkChangeSchema,
  },
  {
    method: 'post',
    path: '/projects/{project}/dispatch-plan',
    group: 'Dispatches',
    does: 'What would go into a package and what would stay behind, and why.',
    takes: dispatchChoiceSchema,
    gives: dispatchPlanSchema,
  },
  {
    method: 'get',
    path: '/projects/{project}/dispatches',
    group: 'Dispatches',
    does: 'The newest packages.',
    gives: dispatchSchema.array(),
  },
  {
    method: 'post',
    path: '/projects/{project}/dispatches',
    group: 'Dispatches',
    does: 'Has the chosen assets judged for a target, and those that are clear packed, in the background.',
    takes: newDispatchSchema,
    gives: dispatchDetailSchema,
    status: 201,
  },
  {
    method: 'get',
    path: '/dispatches/{dispatch}',
    group: 'Dispatches',
    does: 'A package with all that is in it, and what stayed behind.',
    gives: dispatchDetailSchema,
  },
  {
    method: 'get',
    path: '/dispatches/{dispatch}/package',
    group: 'Dispatches',
    does: 'The package as a zip, with manifest.json.',
    gives: 'bytes',
  },
]

const fault = {
  description: 'A fault: code, why, hint, where.',
  content: { 'application/json': { schema: faultReplySchema } },
}

/** The API as OpenAPI 3.1. */
export function apiDocument(): ReturnType<OpenApiGeneratorV31['generateDocument']> {
  const registry = new OpenAPIRegistry()
  for (const { method, path, group, does, takes, query, gives, status = 200 } of apiRoutes) {
    const names = [...path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]!)
    const params = z.object(Object.fromEntries(names.map((n) => [n, z.string()])))
    const content =
      gives === 'bytes'
        ? { 'application/octet-stream': { schema: z.string() } }
        : gives === 'events'
          ? { 'text/event-stream': { schema: eventSchema } }
          : { 'application/json': { schema: gives } }
    const body =
      takes === undefined
        ? undefined
        : takes === 'files'
          ? {
              content: {
                'multipart/form-data': { schema: z.object({ path: z.string(), file: z.string() }) },
              },
            }
          : { content: { 'application/json': { schema: takes } } }
    registry.registerPath({
      method,
      path: `/api${path}`,
      tags: [group],
      summary: does,
      request: {
        ...(names.length > 0 ? { params } : {}),
        ...(query ? { query } : {}),
        ...(body ? { body } : {}),
      },
      responses: { [status]: { description: 'Done.', content }, default: fault },
    })
  }
  return new OpenApiGeneratorV31(registry.definitions).generateDocument({
    openapi: '3.1.0',
    info: {
      title: 'Stern Gate',
      version: applicationVersion,
      description:
        'Deliveries in, verdicts and mended files out. A page of another site may not change anything.',
    },
  })
}
