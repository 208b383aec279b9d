import { onScopeDispose, ref, shallowRef, watch } from 'vue'
import { api, of } from '../../api/client'
import { useNewest } from '../../parts/newest'
import type { Looked, State, TipWork } from './useTipWork'

interface Asked {
  id: number
  state: State
  frame: number
}

/** The mark that is looked at, as it would be made: always of what was changed last. */
export function useLooked({ work, state, at }: TipWork) {
  const looked = shallowRef<Looked>()
  const problem = ref('')

  const { want, behind } = useNewest(
    ({ id, state, frame }: Asked) =>
      of(api.POST('/api/works/{id}/look', { params: { path: { id } }, body: { state, frame } })),
    (answer) => {
      looked.value = answer
      problem.value = ''
    },
    (error) => {
      looked.value = undefined
      problem.value = error.message
    },
  )
  watch(
    [() => work.value?.id, state, at],
    ([id, now, frame]) => want(id && now ? { id, state: now, frame } : undefined),
    { immediate: true },
  )
  return { looked, problem, behind }
}

/** A picture that the server paints of the piece of work, as an address; `asked` is its address and body. */
export function useShown<Body>(asked: () => Body | undefined, ask: (body: Body) => Promise<Blob>) {
  const src = ref<string>()
  const forget = () => src.value && URL.revokeObjectURL(src.value)
  const { want, behind } = useNewest(
    ask,
    (blob) => {
      forget()
      src.value = URL.createObjectURL(blob)
    },
    () => {
      forget()
      src.value = undefined
    },
  )
  watch(asked, want, { immediate: true })
  onScopeDispose(forget)
  return { src, behind }
}
