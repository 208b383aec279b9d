import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { isNavigationFailure, NavigationFailureType } from 'vue-router'
import { router } from '../routes'
import { useSession } from './session'

/** A file with the path it had in what was dropped. */
export interface Brought {
  name: string
  file: File
}

/** What a drop or a chosen folder holds, folders opened. */
async function walk(entry: FileSystemEntry): Promise<Brought[]> {
  if (entry.isFile)
    return [
      await new Promise<Brought>((done, fail) =>
        (entry as FileSystemFileEntry).file((file) => done({ name: entry.fullPath.replace(/^\//, ''), file }), fail),
      ),
    ]
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  const inside: FileSystemEntry[] = []
  // A folder is read a hundred at a time.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((done, fail) => reader.readEntries(done, fail))
    if (!some.length) break
    inside.push(...some)
  }
  return (await Promise.all(inside.filter(({ name }) => !name.startsWith('.')).map(walk))).flat()
}

/** So often one sets out for another view. */
const TRIES = 3
/** Files that may hold several pictures, or something else than pictures. */
const SEVERAL = /\.(zip|ora|json|csv|tsv|svg|gif|webp|tiff?)$/i

/** Files dropped anywhere on the page, on their way to the view that takes them. */
export const useImport = defineStore('import', () => {
  const pictures = shallowRef<File[]>([])
  const parcel = shallowRef<Brought[]>()
  const over = ref(false)

  /** What a drop brought. Must be asked for while the drop is going on. */
  function brought(transfer: DataTransfer): Promise<Brought[]> {
    const entries = [...transfer.items].map((item) => item.webkitGetAsEntry?.() ?? null)
    if (entries.length && entries.every((entry) => entry !== null))
      return Promise.all(entries.map((entry) => walk(entry!))).then((lists) => lists.flat())
    return Promise.resolve([...transfer.files].map((file) => ({ name: file.name, file })))
  }

  /**
   * In the tip maker pictures of every kind are for it; elsewhere a single still one is. Everything else goes to the
   * Import.
   */
  async function take(files: Brought[], asImport = false) {
    const view = router.currentRoute.value.name
    const fits = ({ name }: Brought) => !(view === 'tip-maker' ? /\.(zip|json|csv|tsv)$/i : SEVERAL).test(name)
    const maker =
      !asImport &&
      view !== 'import' &&
      files.every(fits) &&
      files.length > 0 &&
      (view === 'tip-maker' || files.length === 1)
    if (maker) pictures.value = files.map(({ file }) => file)
    else parcel.value = files
    if (maker && view === 'tip-maker') return
    // Dropped in the first moment, the address has no library yet; and a view that settles its own address meanwhile
    // would keep one from leaving.
    const to = { name: maker ? 'tip-maker' : 'import', params: { library: useSession().libraryId } }
    for (let tries = 0; tries < TRIES; tries++)
      if (!isNavigationFailure(await router.push(to), NavigationFailureType.cancelled)) return
  }

  return { pictures, parcel, over, brought, take }
})
