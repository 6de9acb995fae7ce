import type { Router } from 'express'
import { bad, routes, type Outcome, type RuleField, type RuleInfo, type Rulebook } from '@stern-gate/contract'
import {
  checkRulebook,
  composeRulebook,
  findSounding,
  fitRulebook,
  isRecord,
  jsonTrouble,
  optionFields,
  rulebookDifferences,
  rules,
  sampleOf,
  sharedFindings,
  sharedRules,
  startingRulebooks,
  upgradeRulebook,
  type FitSample,
} from '@stern-gate/core'
import { applyToMany, bulkReply } from '../judging/bulkChange'
import { giveWaivers, projectWaivers, takeBack } from '../judging/givenWaivers'
import { listMendable, planMending } from '../judging/mendSafely'
import { findDelivery } from '../store/deliveries'
import { countAssetsByRule, findingsOfDelivery } from '../store/judgements'
import { effectOf } from '../rulebooks/effectOf'
import { eachSubject, LibraryRoom } from '../rulebooks/libraryRoom'
import { saveRulebook } from '../rulebooks/saveRulebook'
import type { Services } from '../services/services'
import { currentRulebook, findRevision, listRevisions } from '../store/projects'
import { answering } from './answer'
import { FaultReply, notFound } from './faults'
import { addMemoryRoutes } from './memoryRoutes'
import { projectOf, projectReply, uuid } from './projectRoutes'
import { addIntakeRoutes } from './intakeRoutes'
import { addSurfaceRoutes } from './surfaceRoutes'

const MOST_REVISIONS = 100
const MOST_NAMES = 2000
/** What a draft would do may be told of the library as it was just now. */
const LATELY = { within: 3000 }

/** The rulebook: what it says, what a change would do, and what is excepted from it. */
export function rulebookRoutes(services: Services): Router {
  const { db } = services.connection
  const room = new LibraryRoom(services)
  const { router, on } = answering()
  addSurfaceRoutes(on, services, room)
  addIntakeRoutes(on, services, room)
  addMemoryRoutes(on, services, room)
  on(routes.getRulebook, async ({ parts }) => {
    const project = await projectOf(db, parts.project)
    return {
      revision: project.rulebookRevision,
      rulebook: await currentRulebook(db, project),
      rules: ruleInfos(),
      found: await countAssetsByRule(db, project.id),
    }
  })
  on(routes.listRevisions, async ({ parts }) => {
    const { id } = await projectOf(db, parts.project)
    const rows = await listRevisions(db, id, MOST_REVISIONS)
    return rows.map((row, k) => ({
      number: row.number,
      author: row.author,
      note: row.note,
      created: new Date(row.created).toISOString(),
      changes: rows[k + 1] ? rulebookDifferences(bodyOf(rows[k + 1]!.body), bodyOf(row.body)) : [],
    }))
  })
  on(routes.getRevision, async ({ parts }) => {
    const { id } = await projectOf(db, parts.project)
    const number = Number(parts.number)
    const row =
      Number.isInteger(number) && number > 0 && number < 2 ** 31 ? await findRevision(db, id, number) : null
    if (!row) throw notFound('revision')
    return { rulebook: { ...bodyOf(row.body) } }
  })
  on(routes.getEffect, async ({ parts, body }) => {
    const { id } = await projectOf(db, parts.project)
    return (await effectOf(await room.open(id, LATELY), checked(body.rulebook))).effect
  })
  on(routes.saveRulebook, async ({ parts, body: { rulebook, revision, note } }) => {
    const project = await projectOf(db, parts.project)
    const saved = await saveRulebook(services, room, project, { rulebook: checked(rulebook), revision, note })
    return projectReply(db, saved)
  })
  on(routes.readRulebookFile, async ({ parts, body: { text } }) => {
    await projectOf(db, parts.project)
    const read = readText(text)
    return read.ok ? { rulebook: read.value, fault: null } : { rulebook: null, fault: read.fault }
  })
  on(routes.getSounding, async ({ parts, body }) => {
    const { id } = await projectOf(db, parts.project),
      sounding = findSounding(body.rule)
    if (!sounding) throw notFound('sounding')
    const draft = body.rulebook && checked(body.rulebook)
    const library = await room.open(id),
      values: { asset: string; name: string; value: number }[] = []
    await eachSubject(library, draft ?? library.context.rulebook, (subject, { asset }) => {
      if (body.class !== null && subject.className !== body.class) return
      for (const value of sounding.values(subject))
        values.push({ asset: asset.id, name: subject.name, value })
    })
    const { rule, of, unit, scale, byClass, limits } = sounding
    return {
      rule,
      of,
      unit,
      scale,
      byClass,
      limits: [...limits],
      values: values.sort((a, b) => a.value - b.value),
    }
  })
  on(routes.listPatternNames, async ({ parts, query }) => {
    const { id } = await projectOf(db, parts.project)
    const library = await room.open(id),
      names = new Set<string>()
    await eachSubject(library, library.context.rulebook, ({ things }) => {
      for (const { kind, name } of things) if (kind === query.kind && name !== '') names.add(name)
    })
    return { total: names.size, names: [...names].sort().slice(0, MOST_NAMES) }
  })
  on(routes.fitLibrary, async ({ parts, body }) => {
    const { id } = await projectOf(db, parts.project)
    const library = await room.open(id),
      wanted = body.assets && new Set(body.assets)
    const samples: FitSample[] = []
    await eachSubject(library, library.context.rulebook, (subject, { asset }) => {
      if (!wanted || wanted.has(asset.id)) samples.push(sampleOf(subject))
    })
    return fitRulebook(samples, library.context.rulebook)
  })
  on(routes.listWaivers, async ({ parts }) => {
    const { id } = await projectOf(db, parts.project)
    return projectWaivers(services, id)
  })
  on(routes.giveWaivers, async ({ parts, body }) => {
    const { id } = await projectOf(db, parts.project)
    const made = await giveWaivers(services, id, body)
    const all = await projectWaivers(services, id)
    return all.filter((w) => made.some((m) => m.id === w.id))
  })
  on(routes.takeWaiverBack, async ({ parts, query }) => ({
    taken: await takeBack(services, uuid(parts.waiver), query.act === true),
  }))
  on(routes.getShared, async ({ parts }) => {
    const row = await findDelivery(db, uuid(parts.delivery))
    if (!row) throw notFound('delivery')
    return sharedFindings(await findingsOfDelivery(db, row.id, sharedRules))
  })
  on(routes.planMending, async ({ parts, body }) => {
    const { id } = await projectOf(db, parts.project)
    return planMending(db, id, body)
  })
  on(routes.mendSafely, async ({ parts, body }) => {
    const { id } = await projectOf(db, parts.project)
    const assets = await listMendable(db, id, body)
    if (assets.length === 0)
      throw new FaultReply(
        bad('request/conflict', 'There is nothing left that is safe to mend.', 'Look at the list again.')
          .fault,
      )
    return bulkReply(services, await applyToMany(services, id, { safe: true, assets, without: body.without }))
  })
  return router
}

let infos: RuleInfo[] | null = null
const ruleInfos = (): RuleInfo[] =>
  (infos ??= rules.map((rule) => ({
    id: rule.id,
    station: rule.station,
    title: rule.meta.title,
    why: rule.meta.why,
    level: rule.meta.level,
    reads: [...rule.meta.reads],
    fields: optionFields(rule.options) as RuleField[],
    sounding: soundingKind(rule.id),
  })))

const soundingKind = (rule: string): RuleInfo['sounding'] => {
  const sounding = findSounding(rule)
  return sounding ? (sounding.byClass ? 'class' : 'option') : null
}

/** Revisions were checked when they were saved. */
const bodyOf = (body: unknown): Rulebook => {
  const known = checkRulebook(upgradeRulebook(body))
  if (known.ok) return known.value
  throw new FaultReply(known.fault)
}

function checked(raw: unknown): Rulebook {
  const rulebook = checkRulebook(raw)
  if (rulebook.ok) return rulebook.value
  throw new FaultReply(rulebook.fault)
}

/** A file's text, with one of the rulebooks to start from below it where it says so. */
function readText(text: string): Outcome<Rulebook> {
  let raw: unknown
  try {
    raw = JSON.parse(text)
  } catch (error) {
    return bad('rulebook/invalid', `It is no JSON: ${jsonTrouble(text, error)}.`, 'Correct the file.')
  }
  if (!isRecord(raw)) return bad('rulebook/invalid', 'An object is expected.', 'Correct the file.')
  const { waivers: _, ...said } = raw,
    base = said['extends']
  if (base !== undefined && !(typeof base === 'string' && Object.hasOwn(startingRulebooks, base)))
    return bad(
      'rulebook/invalid',
      'extends: only rulebooks that are known here can lie below it.',
      `Name one of ${Object.keys(startingRulebooks).join(', ')}, or take the other file’s words into this one.`,
      { part: 'extends' },
    )
  return checkRulebook(composeRulebook(base === undefined ? {} : startingRulebooks[base], said))
}
