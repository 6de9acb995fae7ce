import type { Readable } from 'node:stream'
import { promisify } from 'node:util'
import { open, type Entry, type Options, type ZipFile } from 'yauzl'
import { bad, faultAt, good, type Fault, type Outcome } from '@stern-gate/contract'
import { checkDeliveryPath, isSystemFile } from '@stern-gate/core'

export interface UnpackLimits {
  entries: number
  /** Bytes of one entry and of all together, unpacked. */
  entryBytes: number
  totalBytes: number
  /** Bytes unpacked for each byte of the archive. */
  ratio: number
}

export const unpackLimits: UnpackLimits = {
  entries: 20_000,
  entryBytes: 4 * 2 ** 30,
  totalBytes: 32 * 2 ** 30,
  ratio: 250,
}

export interface UnpackTo {
  take: (path: string, stream: Readable) => Promise<void>
  /** An entry that stays outside, with the reason. */
  refuse: (path: string, fault: Fault) => Promise<void>
}

const openZip = promisify<string, Options, ZipFile>(open)

/**
 * Unpacks a zip, entry by entry, as streams. What the archive claims is looked at before anything is
 * unpacked, and no entry gives more bytes than it claims. Folders and what systems put beside files (dot
 * files, __MACOSX) are left out. Faults of the whole: archive/damaged, archive/too-large; of an entry:
 * file/unsafe-path, archive/link, archive/duplicate, archive/encrypted, archive/nested, archive/too-large.
 */
export async function unpackZip(
  file: string,
  archiveBytes: number,
  to: UnpackTo,
  limits = unpackLimits,
): Promise<Outcome<{ taken: number }>> {
  let zip: ZipFile
  try {
    // Names are decoded here, so that one bad name does not end the whole
    zip = await openZip(file, {
      lazyEntries: true,
      autoClose: false,
      decodeStrings: false,
      validateEntrySizes: true,
    })
  } catch (error) {
    if (isOfSystem(error)) throw error
    return damaged()
  }
  try {
    if (zip.entryCount > limits.entries)
      return tooLarge(`It lists ${zip.entryCount} entries; ${limits.entries} are taken at the most.`)
    const entries = await listEntries(zip)
    const claimed = checkClaims(entries, archiveBytes, limits)
    return claimed.ok ? good({ taken: await unpackEntries(zip, entries, to, limits) }) : claimed
  } catch (error) {
    if (isOfSystem(error)) throw error
    return damaged()
  } finally {
    zip.close()
  }
}

/** A full disk, say: no fault of the archive, which the caller knows better what to do about. */
const isOfSystem = (error: unknown): boolean => typeof (error as NodeJS.ErrnoException).syscall === 'string'

const damaged = () =>
  bad('archive/damaged', 'The archive cannot be read to its end.', 'Pack or copy it again.')
const tooLarge = (why: string) =>
  bad('archive/too-large', why, 'Deliver its files by themselves, or in several archives.')

function listEntries(zip: ZipFile): Promise<Entry[]> {
  const entries: Entry[] = []
  return new Promise((resolve, reject) => {
    zip.on('entry', (entry: Entry) => {
      entries.push(entry)
      zip.readEntry()
    })
    zip.once('end', () => resolve(entries))
    zip.once('error', reject)
    zip.readEntry()
  })
}

/**
 * Sizes as the list of the archive claims them. Entries whose packed bytes sum to more than the archive share
 * them: nothing honest does.
 */
function checkClaims(entries: readonly Entry[], archiveBytes: number, limits: UnpackLimits): Outcome<true> {
  const total = entries.reduce((sum, e) => sum + e.uncompressedSize, 0),
    packed = entries.reduce((sum, e) => sum + e.compressedSize, 0)
  if (total > limits.totalBytes)
    return tooLarge(`It unpacks to ${mib(total)} MiB; ${mib(limits.totalBytes)} are taken at the most.`)
  if (packed > archiveBytes) return tooLarge('Its entries lie over each other.')
  if (total > limits.ratio * archiveBytes)
    return tooLarge(
      `It unpacks to ${Math.round(total / archiveBytes)} times its size; ${limits.ratio} are taken at the most.`,
    )
  return good(true)
}

const mib = (bytes: number): number => Math.round(bytes / 2 ** 20)

async function unpackEntries(
  zip: ZipFile,
  entries: readonly Entry[],
  to: UnpackTo,
  limits: UnpackLimits,
): Promise<number> {
  const seen = new Set<string>()
  let taken = 0
  for (const entry of entries) {
    const name = nameOf(entry)
    if (name.endsWith('/') || isSystemFile(name)) continue
    const path = checkEntry(entry, name, seen, limits)
    if (!path.ok) {
      await to.refuse(name.replaceAll('\u0000', ''), path.fault)
      continue
    }
    seen.add(path.value)
    try {
      await to.take(path.value, await openEntry(zip, entry))
      taken++
    } catch (error) {
      if (isOfSystem(error)) throw error
      await to.refuse(path.value, faultAt(damaged().fault, { file: path.value }))
    }
  }
  return taken
}

const openEntry = (zip: ZipFile, entry: Entry): Promise<Readable> =>
  new Promise((resolve, reject) =>
    zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream))),
  )

/** The upper half of code page 437, in which names stand that are not UTF-8 (APPNOTE 6.3.10, appendix D). */
const PAGE_437 =
  'ÇüéâäàåçêëèïîìÄÅÉæÆôöòûùÿÖÜ¢£¥₧ƒáíóúñÑªº¿⌐¬½¼¡«»░▒▓│┤╡╢╖╕╣║╗╝╜╛┐└┴┬├─┼╞╟╚╔╩╦╠═╬╧╨╤╥╙╘╒╓╫╪┘┌█▄▌▐▀αßΓπΣσµτΦΘΩδ∞φε∩≡±≥≤⌠⌡÷≈°∙·√ⁿ²■\u00a0'

/** Many programs write UTF-8 without saying so: it is taken where the bytes are that. */
function nameOf(entry: Entry): string {
  const bytes = entry.fileName as unknown as Buffer
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return Array.from(bytes, (b) => (b < 128 ? String.fromCharCode(b) : PAGE_437[b - 128])).join('')
  }
}

const UNIX_TYPE = 0xf000,
  UNIX_LINK = 0xa000,
  ENCRYPTED = 1

function checkEntry(
  entry: Entry,
  name: string,
  seen: ReadonlySet<string>,
  limits: UnpackLimits,
): Outcome<string> {
  const path = checkDeliveryPath(name)
  if (!path.ok) return path
  const where = { file: path.value }
  if (((entry.externalFileAttributes >>> 16) & UNIX_TYPE) === UNIX_LINK)
    return bad('archive/link', 'It is a link, not a file.', 'Pack the file itself.', where)
  if (seen.has(path.value))
    return bad(
      'archive/duplicate',
      'The archive holds two entries of this name; the first one was taken.',
      'Pack it again with one of them.',
      where,
    )
  if ((entry.generalPurposeBitFlag & ENCRYPTED) !== 0)
    return bad('archive/encrypted', 'It is encrypted.', 'Pack it again without a password.', where)
  if (/\.zip$/i.test(path.value))
    return bad(
      'archive/nested',
      'An archive within an archive is not opened.',
      'Deliver it by itself.',
      where,
    )
  if (entry.uncompressedSize > limits.entryBytes)
    return bad(
      'archive/too-large',
      `It is larger than ${mib(limits.entryBytes)} MiB.`,
      'Split the file.',
      where,
    )
  return path
}
