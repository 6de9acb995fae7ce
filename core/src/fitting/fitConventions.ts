import type { Proposal, Rulebook, TextureRole } from '@stern-gate/contract'
import { letterWord } from '../rulebook/layoutLetters'
import { layoutOfWords, roleOfWords } from '../rulebook/textureRole'
import { isMeaningful, nameWords } from '../rulebook/nameWords'
import { LEAST_FIT } from './fitNames'
import type { FitSample, FitTexture } from './fitSample'
import { counted } from './nameParts'
import { LEAST_PICTURES, proposal } from './proposal'

/** The last word of a name that is no number and no size such as 2k. */
const lastWord = ({ words }: FitTexture): string | null => words.findLast((w) => !/^\d+k?$/.test(w)) ?? null

const byName = (textures: readonly FitTexture[]): string[] => textures.map((t) => t.stem).sort()

/** Words that stand where the role stands, are none yet, and whose pictures measure alike. */
export function fitRoles(samples: readonly FitSample[], rulebook: Rulebook): Proposal[] {
  const unknown = new Map<string, FitTexture[]>()
  for (const texture of samples.flatMap((s) => s.textures)) {
    if (texture.words.length < 2 || roleOfWords(rulebook, texture.words) !== null) continue
    const word = lastWord(texture)
    if (word === null || (word.length > 1 && !isMeaningful(word))) continue
    unknown.set(word, [...(unknown.get(word) ?? []), texture])
  }
  return [...unknown]
    .sort((a, b) => (a[0] < b[0] ? -1 : 1))
    .flatMap(([word, textures]) => {
      const decided = textures.filter((t) => t.measured !== null),
        [best] = counted(decided.map((t) => t.measured!))
      if (!best || textures.length < LEAST_PICTURES || best[1] < textures.length * LEAST_FIT) return []
      const role = best[0] as TextureRole
      return [
        proposal(
          'roles',
          {
            id: `roles.${word}`,
            title: `“${word}” at the end of a name means ${role}`,
            now: 'tells no role',
            then: role,
            change: [{ path: ['roles', role, 'synonyms', '+'], value: word }],
          },
          { fitting: best[1], misfits: byName(textures.filter((t) => t.measured !== role)) },
        ),
      ]
    })
}

/** Of the names so many hold a word before it belongs to the custom. */
const PART_OF_CUSTOM = 0.2
const MEANINGLESS = 'names/meaningless'

/** Words that are held for empty and stand in so many names that they are meant. */
export function fitWords(samples: readonly FitSample[], unwantedNow: readonly string[]): Proposal[] {
  const names = [...new Set(samples.flatMap((s) => s.names.map((n) => n.name)))]
  const meant = unwantedNow.filter((word) => {
    const count = names.filter((n) => nameWords(n).includes(word)).length
    return count >= LEAST_PICTURES && count >= names.length * PART_OF_CUSTOM
  })
  if (meant.length === 0) return []
  const holding = names.filter((n) => nameWords(n).some((w) => meant.includes(w)))
  return [
    {
      ...proposal(
        'names',
        {
          id: 'words',
          title: `${meant.map((w) => `“${w}”`).join(' and ')} may stand in names`,
          now: `no name may hold ${unwantedNow.join(', ')}`,
          then: `no name may hold ${unwantedNow.filter((w) => !meant.includes(w)).join(', ')}`,
          change: [
            {
              path: ['rules', MEANINGLESS, 'options', 'words'],
              value: unwantedNow.filter((w) => !meant.includes(w)),
            },
          ],
        },
        { fitting: holding.length, misfits: [] },
      ),
      note: `${holding.length} of ${names.length} names hold it: it is part of how things are called here.`,
    },
  ]
}

/**
 * Words at the end of packed maps whose pixels show one order of channels, where the rulebook does not say so already.
 */
export function fitLayouts(samples: readonly FitSample[], rulebook: Rulebook): Proposal[] {
  const byWord = new Map<string, FitTexture[]>()
  for (const texture of samples.flatMap((s) => s.textures)) {
    const word = lastWord(texture)
    if (texture.order === null || word === null || texture.words.length < 2 || !isMeaningful(word)) continue
    byWord.set(word, [...(byWord.get(word) ?? []), texture])
  }
  return [...byWord]
    .sort((a, b) => (a[0] < b[0] ? -1 : 1))
    .flatMap(([word, textures]) => {
      const [best] = counted(textures.map((t) => t.order!))
      if (!best || textures.length < LEAST_PICTURES || best[1] < textures.length * LEAST_FIT) return []
      const [order, fitting] = best,
        now = layoutOfWords(rulebook, ['x', word])
      if (now === order || (order === 'orm' && now === null && roleOfWords(rulebook, ['x', word]) === 'orm'))
        return []
      const before = Object.entries(rulebook.layouts).filter(([, l]) => l.words.includes(word))
      return [
        proposal(
          'conventions',
          {
            id: `layouts.${word}`,
            title: `“${word}” at the end of a name means ${[...order].map(letterWord).join(', ')} in red, green, blue`,
            now: now ?? 'says no order of channels',
            then: order,
            change: [
              ...before.map(([other, { words }]) => ({
                path: ['layouts', other, 'words'],
                value: words.filter((w) => w !== word),
              })),
              { path: ['layouts', order, 'words', '+'], value: word },
            ],
          },
          { fitting, misfits: byName(textures.filter((t) => t.order !== order)) },
        ),
      ]
    })
}

/** Which way green points, and whether colour tags in files mean anything here. */
export function fitConventions(samples: readonly FitSample[], rulebook: Rulebook): Proposal[] {
  const textures = samples.flatMap((s) => s.textures)
  return [greenProposal(textures, rulebook), tagsProposal(textures, rulebook)].flatMap((p) => p ?? [])
}

function greenProposal(textures: readonly FitTexture[], { green: now }: Rulebook): Proposal | null {
  const told = textures.filter((t) => t.green !== null),
    [best] = counted(told.map((t) => t.green!))
  if (!best || told.length < LEAST_PICTURES || best[0] === now) return null
  if (best[1] < told.length * LEAST_FIT) return null
  return proposal(
    'conventions',
    {
      id: 'green',
      title: `Green of normal maps points ${best[0]}`,
      now,
      then: best[0],
      change: [{ path: ['green'], value: best[0] }],
    },
    { fitting: best[1], misfits: byName(told.filter((t) => t.green !== best[0])) },
  )
}

function tagsProposal(textures: readonly FitTexture[], { colourTags: now }: Rulebook): Proposal | null {
  const tagged = textures.filter((t) => t.tagRight !== null),
    wrong = tagged.filter((t) => t.tagRight === false)
  // One tag on colour and data alike: half of them wrong and more is no accident
  if (now === 'ignored' || tagged.length < LEAST_PICTURES * 2 || wrong.length < tagged.length * 0.4)
    return null
  return {
    ...proposal(
      'conventions',
      {
        id: 'colourTags',
        title: 'Colour tags in texture files mean nothing here',
        now,
        then: 'ignored',
        change: [{ path: ['colourTags'], value: 'ignored' }],
      },
      { fitting: tagged.length, misfits: [] },
    ),
    note: `${wrong.length} of ${tagged.length} tagged files say another curve than what they carry needs.`,
  }
}
