/** One report of a pen, a mouse or a finger: page pixels, pressure 0–1, tilts in degrees, milliseconds. */
export type Sample = { x: number; y: number; pressure: number; tiltX: number; tiltY: number; t: number }
/** What a pen does at this moment: pressure 0–1; tilt from upright, azimuth and the line's direction in degrees. */
export interface Pose {
  pressure: number
  tilt: number
  azimuth: number
  direction: number
  kind: string
}
export const UPRIGHT: Pose = { pressure: 0, tilt: 0, azimuth: 0, direction: 0, kind: '' }

const degrees = (radians: number) => (radians * 180) / Math.PI
const hundredth = (value: number) => Math.round(value * 100) / 100

/** Where on the canvas, whose pixels are shown at a scale, a report was made, and how. */
export function sampleOf(event: PointerEvent, canvas: HTMLElement, scale: number): Sample {
  const box = canvas.getBoundingClientRect()
  return {
    x: hundredth((event.clientX - box.left) / scale),
    y: hundredth((event.clientY - box.top) / scale),
    pressure: Math.round(event.pressure * 10000) / 10000,
    tiltX: event.tiltX,
    tiltY: event.tiltY,
    t: hundredth(event.timeStamp),
  }
}

/** The pose of a pen; the direction is that of the last two samples, or stays what it was. */
export function poseOf(event: PointerEvent, [before, now]: Sample[], was: Pose): Pose {
  const moved = before && now && (before.x !== now.x || before.y !== now.y)
  return {
    pressure: event.pressure,
    kind: event.pointerType,
    tilt: 90 - degrees(event.altitudeAngle ?? Math.PI / 2),
    azimuth: degrees(event.azimuthAngle ?? 0),
    direction: moved ? degrees(Math.atan2(before.y - now.y, now.x - before.x)) : was.direction,
  }
}

/** What a device did not send during a stroke, in words; too short a stroke says nothing. */
export function lacking(stroke: Sample[], kind: string): string[] {
  if (stroke.length < 4) return []
  const name = { pen: 'This pen', touch: 'A finger' }[kind] ?? 'A mouse'
  const pressures = stroke.map(({ pressure }) => pressure)
  const even = Math.max(...pressures) - Math.min(...pressures.slice(0, -1)) < 0.005
  const upright = stroke.every(({ tiltX, tiltY }) => !tiltX && !tiltY)
  return [
    even ? `${name} sends no pressure: pressure is constant.` : '',
    upright ? `${name} sends no tilt.` : '',
  ].filter(Boolean)
}
