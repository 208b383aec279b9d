import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { router } from '../routes'

/** Files dropped anywhere on the page, on their way to the view that takes them. */
export const useArrival = defineStore('arrival', () => {
  const picture = shallowRef<File>()
  const parcel = shallowRef<File>()
  const over = ref(false)

  /** A package goes to the Intake; everything else is tried as a picture. */
  async function take(file: File) {
    const packed = /\.zip$/i.test(file.name)
    ;(packed ? parcel : picture).value = file
    await router.push({ name: packed ? 'intake' : 'tip-maker' })
  }

  return { picture, parcel, over, take }
})
