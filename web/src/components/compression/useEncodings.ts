import { computed, ref, shallowRef, watch } from 'vue'
import {
  encodedFormats,
  type BenchTexture,
  type EncodedFormat,
  type Encoding,
  type EncodingQuality,
  type Rulebook,
} from '@stern-gate/contract'
import { cutoffOf } from '@stern-gate/core/surfaces'
import { encodeTexture, getRulebook, listEncodings } from '../../api/client'
import { useBench } from '../../stores/bench'
import { useFaults } from '../../stores/faults'
import { useProject } from '../../stores/project'

/**
 * The texture on the desk in the formats that it was encoded to; one of them may be shown beside its source. `texture`
 * is null where nothing is to be encoded.
 */
export function useEncodings(texture: () => BenchTexture | null) {
  const bench = useBench(),
    project = useProject(),
    faults = useFaults()
  const found = shallowRef<readonly Encoding[]>([])
  const rulebook = shallowRef<Rulebook | null>(null)
  const quality = ref<EncodingQuality>('good')
  const container = ref<'ktx2' | 'dds'>('ktx2')
  /** The format that stands on the desk. */
  const chosen = ref<EncodedFormat | null>(null)
  /** The format that is being encoded, since when. */
  const working = ref<{ format: EncodedFormat; since: number } | null>(null)
  let stop: AbortController | null = null

  /** The threshold of a cutout that it feeds; null: it feeds none. */
  const cutoff = computed(() => cutoffOf(texture()?.uses ?? [], bench.shown?.mesh?.slots ?? []))
  const planOf = (format: EncodedFormat) => ({
    format,
    quality: quality.value,
    container: container.value,
    mips: true,
    role: texture()?.role ?? null,
    cutoff: cutoff.value,
  })
  const isOfPlan = ({ facts: { plan } }: Encoding): boolean => {
    const wanted = planOf(plan.format)
    return (Object.keys(wanted) as (keyof typeof wanted)[]).every((key) => plan[key] === wanted[key])
  }
  const byFormat = computed(
    () => new Map(found.value.filter(isOfPlan).map((e) => [e.facts.plan.format, e] as const)),
  )
  const shown = computed(() => (chosen.value ? (byFormat.value.get(chosen.value) ?? null) : null))
  /** Titles of the targets that store this role in a format. */
  const targetsOf = (format: EncodedFormat): string[] => {
    const role = texture()?.role ?? 'basecolor'
    return Object.values(rulebook.value?.targets ?? {}).flatMap((t) =>
      t.formats[role] === format ? [t.title] : [],
    )
  }
  /** The format in which the asset's target stores it; null where it takes plain texels. */
  const targetFormat = computed<EncodedFormat | null>(() => {
    const target = rulebook.value?.targets[bench.detail?.target ?? ''],
      format = target?.formats[texture()?.role ?? 'basecolor']
    return encodedFormats.find((f) => f === format) ?? null
  })
  watch(
    [() => bench.detail?.id, () => texture()?.sha256],
    async ([asset, sha]) => {
      cancel()
      chosen.value = null
      found.value = []
      const own = texture()
      if (!asset || !sha || !own) return
      const list = await listEncodings(asset, own.name).catch(() => [])
      if (texture()?.sha256 === sha) found.value = list
    },
    { immediate: true },
  )
  watch(
    () => project.openId,
    async (id) => {
      rulebook.value =
        id === null
          ? null
          : await getRulebook(id).then(
              (r) => r.rulebook,
              () => null,
            )
    },
    { immediate: true },
  )

  function cancel(): void {
    stop?.abort()
    stop = null
    working.value = null
  }
  /** Encodes to a format, unless that was done; false where it did not come about. */
  async function encode(format: EncodedFormat): Promise<boolean> {
    const asset = bench.detail?.id,
      own = texture()
    if (!asset || !own) return false
    if (byFormat.value.has(format)) return true
    cancel()
    const mine = (stop = new AbortController())
    working.value = { format, since: Date.now() }
    try {
      const made = await encodeTexture(asset, { texture: own.name, plan: planOf(format) }, mine.signal)
      if (mine.signal.aborted) return false
      found.value = [...found.value, made]
      return true
    } catch (error) {
      if (!mine.signal.aborted) faults.put(error)
      return false
    } finally {
      if (stop === mine) {
        stop = null
        working.value = null
      }
    }
  }
  async function show(format: EncodedFormat): Promise<void> {
    if (chosen.value === format) {
      chosen.value = null
      return
    }
    if (await encode(format)) chosen.value = format
  }
  /** All formats that are still missing, one after the other. */
  async function encodeAll(): Promise<void> {
    for (const format of encodedFormats) {
      if (container.value === 'dds' && !format.startsWith('BC')) continue
      if (!byFormat.value.has(format) && !(await encode(format))) return
    }
  }
  /** The decoded picture as a texture of the desk. */
  const onDesk = computed<BenchTexture | null>(() => {
    const own = texture()
    if (!own?.facts || !shown.value) return null
    const header = { ...own.facts.header, format: 'png' as const, decodes: true }
    return { ...own, sha256: shown.value.picture.split('/').at(-1)!, facts: { ...own.facts, header } }
  })
  return {
    quality,
    container,
    chosen,
    working,
    byFormat,
    shown,
    onDesk,
    targetsOf,
    targetFormat,
    show,
    encodeAll,
    cancel,
  }
}
export type Encodings = ReturnType<typeof useEncodings>
