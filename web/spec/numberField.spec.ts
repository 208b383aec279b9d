// @vitest-environment jsdom
import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import NumberField from '../src/parts/NumberField.vue'

const field = () =>
  mount(NumberField, { props: { modelValue: 1, min: 0, max: 5000, step: 1, label: 'Minimum size in px' } })

describe('a field for a number', () => {
  it('keeps what is being typed when an answer from the server arrives half way', async () => {
    const one = field()
    const input = one.find('input')
    input.element.value = '5'
    await input.trigger('input')
    await one.setProps({ max: 30 })
    await one.setProps({ modelValue: 2 })
    expect(input.element.value).toBe('5')
    input.element.value += '0'
    await input.trigger('input')
    await input.trigger('change')
    expect(one.emitted('update:modelValue')).toEqual([[30]])
  })

  it('shows the value again once the field is left, and counts on from what was typed', async () => {
    const one = field()
    const input = one.find('input')
    input.element.value = '7'
    await input.trigger('input')
    await input.trigger('keydown', { key: 'ArrowUp' })
    expect(one.emitted('update:modelValue')).toEqual([[8]])
    input.element.value = '1'
    await input.trigger('input')
    await input.trigger('blur')
    await one.setProps({ modelValue: 12 })
    expect(input.element.value).toBe('12')
  })
})
