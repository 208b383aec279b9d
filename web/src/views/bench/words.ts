import type { Comparison } from '../../api/client'

/** How far two strokes are apart, in the one way that all of Fobrel says it. */
export function alike({ ssim, mean_difference, seen }: Pick<Comparison, 'ssim' | 'mean_difference' | 'seen'>): string {
  if (seen === 0 && ssim > 0.9999) return 'paints the same'
  return `${Math.round(ssim * 1000) / 10} % alike · colour ΔE ${Math.round(mean_difference * 10) / 10}`
}
