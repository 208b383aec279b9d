import { computed, ref, watch } from 'vue'
import type { components } from '../../api/schema'
import { onBench } from './useBench'

export type Item = components['schemas']['Captured']
export type Listed = components['schemas']['Sheet']['captures'][number] & { on: boolean }

/** The capture list of the brush on the Bench: off unless asked for, or held by its version already. */
export function useCapture() {
  const { detail } = onBench()
  const on = ref(new Set<Item>())
  watch(
    () => detail.value!.captured,
    (held) => (on.value = new Set(held)),
    { immediate: true },
  )

  const items = computed<Listed[]>(() =>
    detail.value!.sheet.captures.map((one) => ({ ...one, on: on.value.has(one.name) })),
  )
  const captured = computed(() => items.value.filter((one) => one.on).map(({ name }) => name))
  const titles = (wanted: boolean) =>
    computed(() =>
      items.value.filter(({ there, on }) => there && on === wanted).map(({ title }) => title.toLowerCase()),
    )
  const flip = (name: Item) => (on.value.has(name) ? on.value.delete(name) : on.value.add(name))

  return { items, captured, along: titles(true), left: titles(false), flip }
}
