import type { Units } from '../format'

const number = String.raw`(\d+(?:[.,]\d+)?|[.,]\d+)`
const metricText = new RegExp(`^${number}\\s*(cm|centimetres?|m|metres?)?$`)
const feetText = new RegExp(`^${number}\\s*(?:'|′|ft|feet|foot)\\s*(?:${number}\\s*(?:"|″|''|in|inch|inches)?)?$`)
const inchText = new RegExp(`^${number}\\s*(?:"|″|''|in|inch|inches)?$`)
const inch = 0.0254 // m
/** Nobody is as many metres tall, and nobody as few centimetres, or feet and inches. */
const asMetres = 3
const asFeet = 9

const value = (text: string | undefined) => Number((text ?? '0').replace(',', '.'))

/** A length of a body as people write it, in metres: 162, 1.62, 1,62 m; in a gym of feet and inches 5 ft 4, 5'4", 64. NaN where it is none. */
export function measured(text: string, units: Units): number {
  const plain = text.trim().toLowerCase()
  const feet = feetText.exec(plain)
  if (feet) return (12 * value(feet[1]) + value(feet[2])) * inch
  const metric = metricText.exec(plain)
  if (metric?.[2]) return value(metric[1]) * (metric[2].startsWith('c') ? 0.01 : 1)
  if (units === 'imperial') {
    const inches = inchText.exec(plain)
    if (inches) return value(inches[1]) * (value(inches[1]) < asFeet && plain === inches[1] ? 12 * inch : inch)
  }
  if (metric) return value(metric[1]) * (value(metric[1]) < asMetres ? 1 : 0.01)
  return NaN
}
