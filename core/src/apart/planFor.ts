import { type ApartWay, type Rulebook, type ScenePlan } from '@stern-gate/contract'
import { fitsGlob } from '../rulebook/glob'
import { holdsSeveral, partsByPlan, type FigureList } from './proposeParts'
import type { SceneNodeFacts } from './sceneTree'

/** The plan by which the rulebook takes a file apart; null: it says nothing of it. */
export const planOfRulebook = ({ scenes }: Pick<Rulebook, 'scenes'>, path: string): ScenePlan | null =>
  scenes.findLast((s) => fitsGlob(s.files, path))?.plan ?? null

/** A plan of a way and nothing else. */
export const planOf = (way: ApartWay): ScenePlan => ({
  way,
  words: null,
  distance: null,
  pivot: 'own',
  copies: true,
  joined: [],
  split: [],
  left: [],
  kept: [],
  names: {},
})

/** A plan of a way alone, for a file that looks like several things; null: it is kept as one. */
export function planOfWay(
  way: ApartWay,
  nodes: readonly SceneNodeFacts[],
  rulebook: FigureList,
): ScenePlan | null {
  return way !== 'whole' && holdsSeveral(nodes, rulebook) ? planOf(way) : null
}

/** Whether a plan makes anything else of a file than the file as it is. */
export function takesApart(
  nodes: readonly SceneNodeFacts[],
  plan: ScenePlan,
  scene: string,
  rulebook: FigureList,
): boolean {
  const { parts } = partsByPlan(nodes, plan, scene, rulebook)
  const kept = parts.filter((p) => p.left === null)
  return kept.length > 0 && parts.length + parts.reduce((sum, p) => sum + p.copies.length, 0) > 1
}
