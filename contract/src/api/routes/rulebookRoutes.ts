import * as z from 'zod'
import { bulkChangeSchema } from '../many'
import { projectSchema } from '../api'
import { sharedFindingSchema } from '../../finding'
import { defineRoute } from '../route'
import {
  effectSchema,
  fitReplySchema,
  fitRequestSchema,
  giveWaiversSchema,
  importReplySchema,
  importRulebookSchema,
  mendPlanSchema,
  mendRequestSchema,
  patternNamesQuerySchema,
  patternNamesSchema,
  projectWaiverSchema,
  revisionSchema,
  rulebookDraftSchema,
  rulebookReplySchema,
  saveRulebookSchema,
  soundingReplySchema,
  soundingRequestSchema,
} from '../rulebooks'

const group = 'Rulebook'

/** Rulebook, waivers and mending: what each route takes and gives. */
export const rulebookRoutes = {
  getRulebook: defineRoute({
    method: 'get',
    path: '/projects/{project}/rulebook',
    group,
    does: 'The rulebook in force, every rule, and how many assets each has something to say of.',
    gives: rulebookReplySchema,
  }),
  listRevisions: defineRoute({
    method: 'get',
    path: '/projects/{project}/rulebook/revisions',
    group,
    does: 'The newest hundred revisions with what each changed.',
    gives: revisionSchema.array(),
  }),
  getRevision: defineRoute({
    method: 'get',
    path: '/projects/{project}/rulebook/revisions/{number}',
    group,
    does: 'The rulebook as it was then.',
    gives: z.strictObject({ rulebook: z.record(z.string(), z.unknown()) }),
  }),
  getEffect: defineRoute({
    method: 'post',
    path: '/projects/{project}/rulebook/effect',
    group,
    does: 'What a draft would do to the verdicts, without keeping it.',
    takes: rulebookDraftSchema,
    gives: effectSchema,
  }),
  saveRulebook: defineRoute({
    method: 'put',
    path: '/projects/{project}/rulebook',
    group,
    does:
      'Puts a changed rulebook in force; assets whose judgement changes are judged anew. Refused ' +
      'when somebody else was faster.',
    takes: saveRulebookSchema,
    gives: projectSchema,
  }),
  readRulebookFile: defineRoute({
    method: 'post',
    path: '/projects/{project}/rulebook/file',
    group,
    does: 'Reads the text of a rulebook file: what it would be here, or its mistake with the place. Keeps nothing.',
    takes: importRulebookSchema,
    gives: importReplySchema,
  }),
  getSounding: defineRoute({
    method: 'post',
    path: '/projects/{project}/rulebook/sounding',
    group,
    does: 'What a rule with a limit measures on every asset, passing ones too.',
    takes: soundingRequestSchema,
    gives: soundingReplySchema,
  }),
  listPatternNames: defineRoute({
    method: 'get',
    path: '/projects/{project}/rulebook/names',
    group,
    does: 'Different names that a pattern is held against, by the alphabet; 2,000 at the most.',
    query: patternNamesQuerySchema,
    gives: patternNamesSchema,
  }),
  fitLibrary: defineRoute({
    method: 'post',
    path: '/projects/{project}/fit',
    group,
    does: 'What the rulebook would have to say to fit assets that are good as they are.',
    takes: fitRequestSchema,
    gives: fitReplySchema,
  }),
  listWaivers: defineRoute({
    method: 'get',
    path: '/projects/{project}/waivers',
    group,
    does: 'All waivers, what ends soonest first, with how each stands.',
    gives: projectWaiverSchema.array(),
  }),
  giveWaivers: defineRoute({
    method: 'post',
    path: '/projects/{project}/waivers',
    group,
    does: 'Accepts findings, with a reason; as one act.',
    takes: giveWaiversSchema,
    gives: projectWaiverSchema.array(),
    status: 201,
  }),
  takeWaiverBack: defineRoute({
    method: 'delete',
    path: '/waivers/{waiver}',
    group,
    does: 'Takes a waiver back; with ?act=true all that were given together with it.',
    query: z.object({ act: z.stringbool().optional() }),
    gives: z.strictObject({ taken: z.int() }),
  }),
  getShared: defineRoute({
    method: 'get',
    path: '/deliveries/{delivery}/shared',
    group,
    does: 'What is the same for most assets that a delivery brought, said once, with one act for all.',
    gives: sharedFindingSchema.array(),
  }),
  planMending: defineRoute({
    method: 'post',
    path: '/projects/{project}/mend-plan',
    group,
    does: 'What remedies that are safe would do, by remedy, and what would be left.',
    takes: mendRequestSchema,
    gives: mendPlanSchema,
  }),
  mendSafely: defineRoute({
    method: 'post',
    path: '/projects/{project}/mend',
    group,
    does: 'Adds the safe remedies that findings offer to the recipes, as one act with one undo.',
    takes: mendRequestSchema,
    gives: bulkChangeSchema,
    status: 201,
  }),
}
