import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
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

/** Files dropped anywhere on the page, on their way to the view that takes them. */
export const useArrival = defineStore('arrival', () => {
  const picture = shallowRef<File>()
  const parcel = shallowRef<Brought[]>()
  const over = ref(false)

  /** What a drop brought. Must be asked for while the drop is going on. */
  function brought(transfer: DataTransfer): Promise<Brought[]> {
    const entries = [...transfer.items].map((item) => item.webkitGetAsEntry?.() ?? null)
    if (entries.length && entries.every((entry) => entry !== null))
      return Promise.all(entries.map((entry) => walk(entry!))).then((lists) => lists.flat())
    return Promise.resolve([...transfer.files].map((file) => ({ name: file.name, file })))
  }

  /** A single still picture becomes a tip at once; everything else goes to the Intake. */
  async function take(files: Brought[], intake = false) {
    const one =
      !intake &&
      files.length === 1 &&
      router.currentRoute.value.name !== 'intake' &&
      !/\.(zip|ora|json|csv|tsv|svg|gif|webp|tiff?)$/i.test(files[0]!.name)
    if (one) picture.value = files[0]!.file
    else parcel.value = files
    // Dropped in the first moment, the address has no library yet.
    await router.push({ name: one ? 'tip-maker' : 'intake', params: { library: useSession().libraryId } })
  }

  return { picture, parcel, over, brought, take }
})
