// @vitest-environment jsdom
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, describe, expect, it } from 'vitest'
import { defineComponent, h, ref, type Ref } from 'vue'
import FormDialog from '../src/parts/FormDialog.vue'
import { useDeed } from '../src/parts/useDeed'

/** A dialog that asks for a name and does a deed which ends when it is told to. */
function asking(options: { ready?: Ref<boolean>; danger?: boolean } = {}) {
  const calls: ((error?: Error) => void)[] = []
  const closed = ref(0)
  const { ready = ref(true), danger = false } = options
  const name = ref('Kit')
  const type = (event: Event) => (name.value = (event.target as HTMLInputElement).value)
  const { busy, problem, go } = useDeed(
    () => new Promise<void>((done, fail) => calls.push((error) => (error ? fail(error) : done()))),
  )
  const Host = defineComponent(
    () => () =>
      h(
        FormDialog,
        {
          title: 'A new set',
          deed: 'Create',
          busy: busy.value,
          problem: problem.value,
          ready: ready.value,
          danger,
          onSubmit: go,
          onClose: () => closed.value++,
        },
        () => h('input', { type: 'text', 'aria-label': 'Name', value: name.value, onInput: type }),
      ),
  )
  const host = mount(Host, { attachTo: document.body })
  return { host, calls, closed, busy }
}

const find = <T extends HTMLElement>(selector: string) => document.querySelector<T>(selector)!
const deed = () => find<HTMLButtonElement>('button[type=submit]')
const enter = () => find<HTMLFormElement>('form').dispatchEvent(new Event('submit', { cancelable: true }))

describe('a dialog that asks', () => {
  afterEach(() => (document.body.innerHTML = ''))

  it('does its deed once, however often it is pressed', async () => {
    const { calls, busy } = asking()
    await flushPromises()
    deed().click()
    deed().click()
    enter()
    await flushPromises()
    expect([calls.length, busy.value]).toEqual([1, true])
    enter()
    expect(calls.length).toBe(1)
    calls[0]!()
    await flushPromises()
    expect(busy.value).toBe(false)
  })

  it('says what went wrong, keeps what was typed, and can be tried again', async () => {
    const { calls } = asking()
    await flushPromises()
    find<HTMLInputElement>('input').value = 'Harbour'
    find('input').dispatchEvent(new Event('input'))
    enter()
    await flushPromises()
    calls[0]!(new Error('A set called “Harbour” is here already.'))
    await flushPromises()
    expect(find('[role=alert]').textContent).toBe('A set called “Harbour” is here already.')
    expect(find<HTMLInputElement>('input').value).toBe('Harbour')
    enter()
    await flushPromises()
    expect([calls.length, document.querySelector('[role=alert]')]).toEqual([2, null])
  })

  it('does nothing until it is ready', async () => {
    const ready = ref(false)
    const { calls } = asking({ ready })
    await flushPromises()
    enter()
    expect([calls.length, deed().disabled]).toEqual([0, true])
    ready.value = true
    await flushPromises()
    enter()
    expect(calls.length).toBe(1)
  })

  it('is closed by its own button, without the deed', async () => {
    const { calls, closed } = asking()
    await flushPromises()
    const cancel = [...document.querySelectorAll('button')].find((one) => one.textContent?.trim() === 'Cancel')!
    cancel.click()
    expect([calls.length, closed.value]).toEqual([0, 1])
  })
})
