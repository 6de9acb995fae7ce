export class ArchiveFailed extends Error {}
export interface ArchivePlace {
  url: string
  data: string
  file: string
}
export function backup(place: ArchivePlace): void
export function restore(place: ArchivePlace & { replace?: boolean }): void
