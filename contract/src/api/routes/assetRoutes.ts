import * as z from 'zod'
import {
  assetChoiceSchema,
  assetDetailSchema,
  deliverySchema,
  newDeliverySchema,
  previewRequestSchema,
  previewSchema,
  saveRecipeSchema,
  undoSchema,
  versionQuerySchema,
} from '../api'
import {
  assetRowSchema,
  facetsSchema,
  findRequestSchema,
  foundSchema,
  libraryFilterSchema,
  libraryPageSchema,
  libraryQuerySchema,
} from '../library'
import { setOriginSchema } from '../../origin'
import { defineRoute } from '../route'

const page = z.object({
  limit: z.coerce.number().int().min(1).max(500).default(200),
  before: z.string().describe('updated and id of the last row of the page before, joined by |').optional(),
})

/** Assets: what each route takes and gives. */
export const assetRoutes = {
  getLibrary: defineRoute({
    method: 'get',
    path: '/projects/{project}/library',
    group: 'Assets',
    does: 'A window of the assets, filtered and sorted.',
    query: libraryQuerySchema,
    gives: libraryPageSchema,
  }),
  listLibraryIds: defineRoute({
    method: 'get',
    path: '/projects/{project}/library/ids',
    group: 'Assets',
    does: 'Ids of all assets that fit, in the order of the list.',
    query: libraryQuerySchema,
    gives: z.array(z.uuid()),
  }),
  getFacets: defineRoute({
    method: 'get',
    path: '/projects/{project}/facets',
    group: 'Assets',
    does: 'How many assets each value of each facet has.',
    query: libraryFilterSchema,
    gives: facetsSchema,
  }),
  listAssets: defineRoute({
    method: 'get',
    path: '/projects/{project}/assets',
    group: 'Assets',
    does: 'A page of assets, newest first.',
    query: page,
    gives: assetRowSchema.array(),
  }),
  getAsset: defineRoute({
    method: 'get',
    path: '/assets/{asset}',
    group: 'Assets',
    does: 'Everything that the bench shows of an asset.',
    query: versionQuerySchema,
    gives: assetDetailSchema,
  }),
  chooseForAsset: defineRoute({
    method: 'patch',
    path: '/assets/{asset}',
    group: 'Assets',
    does: 'Chooses class or target.',
    takes: assetChoiceSchema,
    gives: assetDetailSchema,
  }),
  continueAsset: defineRoute({
    method: 'post',
    path: '/assets/{asset}/deliveries',
    group: 'Assets',
    does:
      'Begins a delivery that holds the files of the newest version already: ' +
      'what is sent to it completes them, and becomes the next version.',
    takes: newDeliverySchema,
    gives: deliverySchema,
    status: 201,
  }),
  saveRecipe: defineRoute({
    method: 'put',
    path: '/assets/{asset}/recipe',
    group: 'Assets',
    does: 'Keeps a new recipe; refused when somebody else was faster.',
    takes: saveRecipeSchema,
    gives: assetDetailSchema,
  }),
  undoRecipe: defineRoute({
    method: 'post',
    path: '/assets/{asset}/undo',
    group: 'Assets',
    does: 'Takes the last change of the recipe back.',
    takes: undoSchema,
    gives: assetDetailSchema,
  }),
  previewRecipe: defineRoute({
    method: 'post',
    path: '/assets/{asset}/preview',
    group: 'Assets',
    does: 'What a recipe would make, without keeping it.',
    takes: previewRequestSchema,
    gives: previewSchema,
  }),
  findNames: defineRoute({
    method: 'get',
    path: '/projects/{project}/names',
    group: 'Assets',
    does: 'Names of the project that hold what was typed: of assets, textures, slots, nodes, clips and files; the best 60.',
    query: findRequestSchema,
    gives: foundSchema.array(),
  }),
  setOrigin: defineRoute({
    method: 'put',
    path: '/projects/{project}/origins',
    group: 'Assets',
    does: 'Says where assets, or all that a delivery brought, came from; they are judged anew.',
    takes: setOriginSchema,
    gives: z.strictObject({ assets: z.int() }),
  }),
  keepFromBefore: defineRoute({
    method: 'post',
    path: '/assets/{asset}/keep',
    group: 'Assets',
    does: 'Takes levels and collision that the newest version lacks over from the version before, as a delivery of its own.',
    gives: deliverySchema,
    status: 201,
  }),
}
