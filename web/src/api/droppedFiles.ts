import { isSystemFile } from '@stern-gate/core/paths'

/** A file that a person brought, with its path in the delivery. */
export interface BroughtFile {
  path: string
  file: File
}

/**
 * Collects the files of a drop or paste, folders with what is in them, each with its path. What systems leave
 * beside files is left out.
 */
export async function droppedFiles(transfer: DataTransfer): Promise<BroughtFile[]> {
  const entries = [...transfer.items].flatMap((item) =>
    item.kind === 'file' ? [item.webkitGetAsEntry() ?? item.getAsFile()] : [],
  )
  const files: BroughtFile[] = []
  for (const entry of entries) {
    if (entry instanceof File) files.push({ path: entry.name, file: entry })
    else if (entry) await walk(entry, '', files)
  }
  return meant(files)
}

async function walk(entry: FileSystemEntry, prefix: string, files: BroughtFile[]): Promise<void> {
  const path = prefix + entry.name
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) =>
      (entry as FileSystemFileEntry).file(resolve, reject),
    )
    files.push({ path, file })
    return
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  // A reader gives its entries in portions until an empty one
  for (;;) {
    const portion = await new Promise<FileSystemEntry[]>((resolve, reject) =>
      reader.readEntries(resolve, reject),
    )
    if (portion.length === 0) return
    for (const child of portion) await walk(child, `${path}/`, files)
  }
}

/**
 * Files of a file input, with the folder path where a folder was chosen; what systems leave beside them is
 * left out.
 */
export const chosenFiles = (list: FileList): BroughtFile[] =>
  meant([...list].map((file) => ({ path: file.webkitRelativePath || file.name, file })))

const meant = (files: BroughtFile[]): BroughtFile[] => files.filter((f) => !isSystemFile(f.path))
