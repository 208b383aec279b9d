import { computed, ref, watch } from 'vue'
import type { Detail, Document } from '../../api/client'
import { shown, valueAt } from './settings'
import { onBench } from './useBench'

export type Item = Detail['captured'][number]
interface Captured {
  name: Item
  path: string[]
  title: string
  usual: (value: unknown) => boolean
}

const nothing = (value: unknown) => value === null
/** What may be saved along with a brush though it is state of the moment, and what stands there otherwise. */
const ITEMS: Captured[] = [
  {
    name: 'colour',
    path: ['pigment', 'colour'],
    title: 'Colour',
    usual: (value) => (value as { mode: string }).mode !== 'fixed',
  },
  { name: 'layer', path: ['habits', 'layer'], title: 'Layer', usual: nothing },
  { name: 'under', path: ['habits', 'under'], title: 'Lay under', usual: (value) => value === false },
  { name: 'merge', path: ['habits', 'merge'], title: 'Merge', usual: (value) => value === true },
  { name: 'mirror', path: ['habits', 'mirror'], title: 'Mirror', usual: nothing },
]

export interface Listed {
  name: Item
  title: string
  there: boolean
  value: string
  swatch?: string
  on: boolean
}

/** The capture list of the brush on the Bench: off unless asked for, or held by its edition already. */
export function useCapture() {
  const { detail, document } = onBench()
  const on = ref(new Set<Item>())
  watch(
    () => detail.value!.captured,
    (held) => (on.value = new Set(held)),
    { immediate: true },
  )

  const items = computed<Listed[]>(() =>
    ITEMS.map(({ name, path, title, usual }) => {
      const value = valueAt(document.value as Document, path)
      const there = !usual(value)
      const swatch = name === 'colour' && there ? (value as { value: string }).value : undefined
      return {
        name,
        title,
        there,
        swatch,
        value: there ? shown({ unit: '' }, value) : 'nothing to save',
        on: on.value.has(name),
      }
    }),
  )
  const captured = computed(() => ITEMS.map(({ name }) => name).filter((name) => on.value.has(name)))
  const along = computed(() =>
    items.value.filter(({ there, on }) => there && on).map(({ title }) => title.toLowerCase()),
  )
  const left = computed(() =>
    items.value.filter(({ there, on }) => there && !on).map(({ title }) => title.toLowerCase()),
  )
  const flip = (name: Item) => (on.value.has(name) ? on.value.delete(name) : on.value.add(name))

  return { items, captured, along, left, flip }
}
