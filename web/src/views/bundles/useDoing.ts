import { ref } from 'vue'
import { useToast } from '../../stores/toast'

/** Does something, reads anew what is shown, and says what was done; tells whether it went well. */
export type Doing = (deed: () => Promise<unknown>, said?: string) => Promise<boolean>

/** Deeds of one view, one at a time. */
export function useDoing(load: () => Promise<unknown>) {
  const toast = useToast()
  const busy = ref(false)
  const doing: Doing = async (deed, said) => {
    busy.value = true
    const well = await toast.attempt(async () => {
      await deed()
      await load()
      if (said) toast.done(said)
    })
    busy.value = false
    return well
  }
  return { busy, doing }
}
