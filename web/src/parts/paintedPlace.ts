/** A place in a picture, as shares of its width and height. */
export interface Place {
  x: number
  y: number
}

const ACROSS = 210

/** The painted place nearest to the middle of a picture: where it differs from its corner. */
export function nearestPaint(pixels: Uint8ClampedArray, width: number, height: number): Place {
  const differs = (at: number) =>
    [0, 1, 2, 3].reduce((sum, band) => sum + Math.abs(pixels[at + band]! - pixels[band]!), 0)
  let best: Place = { x: 0.5, y: 0.5 }
  let nearest = Infinity
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (differs((y * width + x) * 4) < 60) continue
      const [across, down] = [(x + 0.5) / width, (y + 0.5) / height]
      const far = Math.abs(across - 0.5) + Math.abs(down - 0.5) / 4
      if (far < nearest) [nearest, best] = [far, { x: across, y: down }]
    }
  }
  return best
}

/** The same for a picture on the page. */
export function paintedPlace(image: HTMLImageElement): Place {
  const height = Math.max(1, Math.round((ACROSS * image.naturalHeight) / image.naturalWidth))
  const canvas = document.createElement('canvas')
  canvas.width = ACROSS
  canvas.height = height
  const context = canvas.getContext('2d', { willReadFrequently: true })
  if (!context) return { x: 0.5, y: 0.5 }
  context.drawImage(image, 0, 0, ACROSS, height)
  return nearestPaint(context.getImageData(0, 0, ACROSS, height).data, ACROSS, height)
}
