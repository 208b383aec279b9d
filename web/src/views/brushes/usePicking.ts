import { useEventListener } from '@vueuse/core'
import { computed, nextTick, ref, watch, type Ref } from 'vue'
import type { Preset } from '../../api/client'
import { intoList } from '../../parts/intoList'
import { useLibrary } from '../../stores/library'
import { useToast } from '../../stores/toast'
import { useTray } from '../../stores/tray'
import type { useFound } from './useFound'
import type { useInSight } from './useInSight'

/** Walking through what was found with the keys, looking at one brush, picking one, a range, or all. */
export function usePicking(
  list: Ref<HTMLElement | undefined>,
  room: { height: Ref<number> },
  found: ReturnType<typeof useFound>,
  { virtual }: Pick<ReturnType<typeof useInSight>, 'virtual'>,
  { lanes, tall, q }: { lanes: Ref<number>; tall: Ref<number>; q: Ref<string> },
  open: (preset: Preset) => void,
) {
  const library = useLibrary()
  const tray = useTray()
  const toast = useToast()
  const { rows, total } = found
  const peeked = ref<number>()
  const at = ref(0)
  const anchor = ref(0)
  const peek = computed(() => (peeked.value !== undefined ? library.byId.get(peeked.value) : undefined) ?? rows.get(0))
  watch([total, q], () => {
    if (!total.value) peeked.value = undefined
  })
  watch(q, () => {
    peeked.value = undefined
    at.value = anchor.value = 0
  })

  function focus(index: number, keepAnchor = false) {
    at.value = Math.min(Math.max(index, 0), (total.value ?? 1) - 1)
    if (!keepAnchor) anchor.value = at.value
    virtual.value.scrollToIndex(Math.floor(at.value / lanes.value), { align: 'auto' })
    const preset = rows.get(at.value)
    if (preset) peeked.value = preset.id
    else {
      found.see(at.value, at.value)
      const stop = watch(
        () => rows.get(at.value),
        (came) => {
          if (came) {
            peeked.value = came.id
            stop()
          }
        },
      )
    }
    nextTick(() => list.value?.querySelector<HTMLElement>(`[data-index="${at.value}"]`)?.focus({ preventScroll: true }))
  }
  // From the search line down: as soon as what was asked for last is there.
  let wanted = false
  watch(intoList, () => {
    wanted = true
    goIn()
  })
  watch(
    () => rows.get(0),
    () => goIn(),
  )
  function goIn() {
    if (!wanted || !rows.get(0)) return
    wanted = false
    nextTick(() => focus(0))
  }
  async function range(to: number) {
    const [first, last] = [Math.min(anchor.value, to), Math.max(anchor.value, to)]
    await toast.attempt(async () => tray.add(await found.ids(first, last)))
  }
  function click(event: MouseEvent, index: number, preset: Preset) {
    if (event.shiftKey) {
      focus(index, true)
      range(index)
      return
    }
    focus(index)
    if (event.ctrlKey || event.metaKey) tray.toggle(preset.id)
  }
  const all = () => toast.attempt(async () => tray.add(await found.ids()))

  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    const target = event.target as HTMLElement
    if (
      target.closest('input, textarea, [role=dialog], [role=slider], .el-select, .el-dropdown, .el-drawer') ||
      event.altKey
    )
      return
    const page = Math.max(1, Math.floor(room.height.value / tall.value) - 1) * lanes.value
    const across: Record<string, number> = lanes.value > 1 ? { ArrowRight: 1, ArrowLeft: -1 } : {}
    const steps: Record<string, number> = {
      ArrowDown: lanes.value,
      ArrowUp: -lanes.value,
      ...across,
      PageDown: page,
      PageUp: -page,
      Home: -1e9,
      End: 1e9,
    }
    const step = steps[event.key]
    if (step !== undefined) {
      event.preventDefault()
      focus(at.value + step, event.shiftKey)
      if (event.shiftKey) range(at.value)
    }
    if ((event.ctrlKey || event.metaKey) && event.key === 'a') {
      event.preventDefault()
      all()
    }
    if (event.key === ' ' && peek.value && !target.closest('button, a')) {
      event.preventDefault()
      tray.toggle(peek.value.id)
    }
    if (event.key === 'Enter' && peek.value && target.closest('.row, body') && !target.closest('button, a'))
      open(peek.value)
  })

  return { peeked, at, peek, click, all }
}
