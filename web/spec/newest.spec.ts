import { describe, expect, it } from 'vitest'
import { effectScope, nextTick } from 'vue'
import { turns, useNewest } from '../src/parts/newest'
import { nearestPaint } from '../src/parts/paintedPlace'
import { besideOf } from '../src/parts/scale'
import { lacking, poseOf, sampleOf, UPRIGHT, type Sample } from '../src/views/bench/pen'

const settle = async () => {
  for (let i = 0; i < 6; i++) await nextTick()
}

describe('the newest question', () => {
  function start() {
    const open: { question: number; answer: (value: string) => void; fail: (error: Error) => void }[] = []
    const shown: string[] = []
    const failed: string[] = []
    const scope = effectScope()
    const newest = scope.run(() =>
      useNewest<number, string>(
        (question) => new Promise((answer, fail) => open.push({ question, answer, fail })),
        (answer) => {
          shown.push(answer)
        },
        (error) => {
          failed.push(error.message)
        },
      ),
    )!
    return { open, pictures: shown, failed, scope, ...newest }
  }

  it('is asked next when several come while one is open, and is what is shown in the end', async () => {
    const { open, pictures, want, behind } = start()
    ;[1, 2, 3, 4].forEach(want)
    expect([open.map(({ question }) => question), behind.value]).toEqual([[1], true])
    open[0]!.answer('one')
    await settle()
    open[1]!.answer('four')
    await settle()
    expect([open.map(({ question }) => question), pictures, behind.value]).toEqual([[1, 4], ['one', 'four'], false])
  })

  it('is not harmed by an older one that failed; its own failure is told', async () => {
    const { open, pictures, failed, want } = start()
    want(1)
    want(2)
    open[0]!.fail(new Error('old'))
    await settle()
    open[1]!.answer('two')
    await settle()
    want(3)
    open[2]!.fail(new Error('new'))
    await settle()
    expect([pictures, failed]).toEqual([['two'], ['new']])
  })

  it('shows nothing any more once nobody looks', async () => {
    const { open, pictures, want, scope } = start()
    want(1)
    scope.stop()
    open[0]!.answer('late')
    await settle()
    expect(pictures).toEqual([])
  })

  it('of several asked at once is told apart by its turn', () => {
    const turn = turns()
    const [first, second] = [turn(), turn()]
    expect([first(), second()]).toEqual([false, true])
  })
})

describe('strips shown together', () => {
  it('stand on the scale of the largest, in steps; alone or of one size they need none', () => {
    expect([besideOf([]), besideOf([40]), besideOf([40, 40])]).toEqual([0, 0, 0])
    expect(besideOf([10, 400])).toBeGreaterThanOrEqual(400)
    expect(besideOf([10, 400])).toBe(besideOf([10, 410]))
    expect(besideOf([10, 400]) / 400).toBeLessThan(1.25)
  })
})

describe('the painted place', () => {
  it('is the one nearest to the middle, or the middle where nothing is painted', () => {
    const [width, height] = [20, 10]
    const pixels = new Uint8ClampedArray(width * height * 4)
    expect(nearestPaint(pixels, width, height)).toEqual({ x: 0.5, y: 0.5 })
    for (const [x, y] of [
      [2, 1],
      [14, 8],
    ])
      pixels[(y! * width + x!) * 4 + 3] = 255
    expect(nearestPaint(pixels, width, height)).toEqual({ x: 14.5 / 20, y: 8.5 / 10 })
  })
})

describe('what a pen sends', () => {
  const event = (more: Partial<PointerEvent>) =>
    ({
      clientX: 60,
      clientY: 45,
      pressure: 0.33333,
      tiltX: 10,
      tiltY: 0,
      timeStamp: 5.1234,
      pointerType: 'pen',
      ...more,
    }) as PointerEvent
  const canvas = { getBoundingClientRect: () => ({ left: 10, top: 20 }) } as HTMLElement
  const at = (x: number, y: number, pressure: number, tiltX = 0): Sample => ({ x, y, pressure, tiltX, tiltY: 0, t: 0 })

  it('is measured on the pad, however small that is shown', () => {
    expect(sampleOf(event({}), canvas, 1)).toEqual({ x: 50, y: 25, pressure: 0.3333, tiltX: 10, tiltY: 0, t: 5.12 })
    expect(sampleOf(event({}), canvas, 0.5)).toMatchObject({ x: 100, y: 50 })
  })

  it('says what the device leaves out, and nothing after a mere tap', () => {
    const even = [1, 2, 3, 4, 5].map((x) => at(x, 0, 0.5))
    expect(lacking(even, 'mouse')).toEqual([
      'A mouse sends no pressure: pressure is constant.',
      'A mouse sends no tilt.',
    ])
    expect(
      lacking(
        even.map((one, index) => ({ ...one, pressure: index / 5, tiltX: 9 })),
        'pen',
      ),
    ).toEqual([])
    expect(lacking(even.slice(2), 'touch')).toEqual([])
  })

  it('shows lean and direction; the direction stays while the pen rests', () => {
    const pose = poseOf(
      event({ altitudeAngle: Math.PI / 3, azimuthAngle: Math.PI / 2 } as Partial<PointerEvent>),
      [at(0, 10, 1), at(10, 0, 1)],
      UPRIGHT,
    )
    expect([Math.round(pose.tilt), Math.round(pose.azimuth), Math.round(pose.direction)]).toEqual([30, 90, 45])
    expect(poseOf(event({}), [at(1, 1, 1), at(1, 1, 1)], pose).direction).toBe(pose.direction)
  })
})
