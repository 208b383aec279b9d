import { useVirtualizer } from '@tanstack/vue-virtual'
import { computed, nextTick, watch, type Ref } from 'vue'
import type { useColumns } from './useColumns'
import type { useFound } from './useFound'

/** Only what is in sight of the brush list is drawn, in as many lanes as fit; it scrolls, and stays where it was. */
export function useInSight(
  list: Ref<HTMLElement | undefined>,
  room: { width: Ref<number> },
  { rows, total, see }: ReturnType<typeof useFound>,
  { lanes, tall }: Pick<ReturnType<typeof useColumns>, 'lanes' | 'tall'>,
) {
  const lines = computed(() => Math.ceil((total.value ?? 0) / lanes.value))
  const virtual = useVirtualizer(
    computed(() => ({
      count: lines.value,
      getScrollElement: () => list.value ?? null,
      estimateSize: () => tall.value,
      overscan: 14,
    })),
  )
  const items = computed(() =>
    virtual.value
      .getVirtualItems()
      .flatMap(({ index: line, start }) =>
        Array.from({ length: lanes.value }, (_, lane) => ({ index: line * lanes.value + lane, lane, start })),
      )
      .filter(({ index }) => index < (total.value ?? 0))
      .map((item) => ({ ...item, preset: rows.get(item.index) })),
  )
  const place = (item: { lane: number; start: number }) => ({
    transform: `translateY(${item.start}px)`,
    height: `${tall.value}px`,
    left: `${(100 * item.lane) / lanes.value}%`,
    width: `${100 / lanes.value}%`,
  })
  // What stood first in sight stands there still when the strips grow or another column begins.
  const firstInSight = (high = tall.value, beside = lanes.value) =>
    Math.round((list.value?.scrollTop ?? 0) / high) * beside
  const frame = () => new Promise((done) => requestAnimationFrame(done))
  /** As soon as the list has its height: what stands further down than it reaches cannot be scrolled to. */
  async function scrollTo(index: number) {
    for (
      let tries = 0;
      index && tries < 60 && (!room.width.value || (list.value?.scrollHeight ?? 0) < lines.value * tall.value);
      tries++
    )
      await frame()
    list.value?.scrollTo({ top: Math.floor(index / lanes.value) * tall.value })
  }
  watch([tall, lanes], async (_, [high, beside]) => {
    const first = firstInSight(high, beside)
    virtual.value.measure()
    await nextTick()
    await scrollTo(first)
  })
  // What comes next is asked for before it comes into sight.
  watch(items, (now) => now.length && see(now[0]!.index - 20, Math.min(now.at(-1)!.index + 60, (total.value ?? 1) - 1)))

  return { virtual, items, place, firstInSight, scrollTo }
}
