import { ratings } from './labels.gen'

/** Figures become words here, at the last moment. */
export type Units = 'metric' | 'imperial'

export const tempo = (v: number) => Math.round(v).toString()
/** A tempo with one decimal where it has one. */
export const tempoOf = (v: number) => String(Math.round(v * 10) / 10)
/** What a count allows, in whole tempos, or in tenths where it is narrower than that. */
export const range = (slowest: number, fastest: number) => {
  if (Math.floor(fastest) - Math.ceil(slowest) >= 1) return `${Math.ceil(slowest)} to ${Math.floor(fastest)}`
  const [low, high] = [slowest.toFixed(1), fastest.toFixed(1)]
  return low === high ? low : `${low} to ${high}`
}
export const percent = (share: number) => `${Math.round(100 * share)} %`
export const ms = (s: number) => `${Math.round(1000 * s)} ms`
export const signedMs = (s: number) => `${s > 0 ? '+' : s < 0 ? '−' : ''}${Math.abs(Math.round(1000 * s))} ms`
export const speed = (v: number, units: Units) =>
  units === 'imperial' ? `${(v * 3.28084).toFixed(1)} ft/s` : `${v.toFixed(1)} m/s`

/** In feet and inches, to the half inch, from a yard on. */
function feet(m: number): string {
  const halves = Math.round((Math.abs(m) / 0.0254) * 2)
  const rest = halves % 24
  const inches = rest === 0 ? '' : ` ${Math.floor(rest / 2)}${rest % 2 ? '½' : ''} in`
  return `${m < 0 ? '−' : ''}${Math.floor(halves / 24)} ft${inches}`
}

export function length(m: number, units: Units): string {
  if (units === 'imperial') return Math.abs(m) >= 0.9144 ? feet(m) : `${(m / 0.0254).toFixed(1).replace(/\.0$/, '')} in`
  return m >= 1 ? `${m.toFixed(2)} m` : `${(m * 100).toFixed(1).replace(/\.0$/, '')} cm`
}

/** A length that nobody measures to the millimetre: to the centimetre, or the half inch. */
export const about = (m: number, units: Units) =>
  length(units === 'imperial' ? Math.round(m / 0.0127) * 0.0127 : Math.round(m * 100) / 100, units)

/** minutes:seconds of a time in seconds, rounded up as a clock that runs down shows it. */
export function countdown(s: number): string {
  const whole = Math.max(0, Math.ceil(s - 1e-6))
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}

export function duration(s: number): string {
  if (s < 120) return `${Math.round(s)} s`
  return s % 60 === 0 ? `${s / 60} min` : countdown(s)
}

const bare = (at: string, zone: string, o: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat('en-GB', { timeZone: zone, ...o }).format(new Date(at))
export const day = (at: string, zone: string) => bare(at, zone, { weekday: 'long', day: 'numeric', month: 'long' })
export const shortDay = (at: string, zone: string) =>
  bare(at, zone, { weekday: 'short', day: 'numeric', month: 'short' })
/** The day it is in a zone, as 2026-03-02. */
export const dayIn = (zone: string, at = new Date()) =>
  new Intl.DateTimeFormat('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' }).format(at)
export const clockTime = (at: string, zone: string) => bare(at, zone, { hour: '2-digit', minute: '2-digit' })

export const count = (n: number, one: string, many = one + 's') => `${n} ${n === 1 ? one : many}`

/** What a coach says of a round, in short. */
export const rated = (r: { clean?: number; outOf?: number; word: string }) =>
  [
    ...(r.outOf == null ? [] : [`${r.clean ?? 0} of ${r.outOf} by eye`]),
    ...(r.word === '' ? [] : [ratings[r.word as keyof typeof ratings].toLowerCase()]),
  ].join(', ')
export const dayNames = ['Su', 'Mo', 'Tu', 'We', 'Th', 'Fr', 'Sa']
/** A figure of what somebody can do. */
export function ability(figure: string, v: number, units: Units): string {
  switch (figure) {
    case 'timing':
    case 'force':
    case 'miss':
      return `${(100 * v).toFixed(1)} %`
    case 'motor':
      return ms(v)
    case 'bias':
      return Math.abs(v) < 0.0005 ? 'none' : `${ms(Math.abs(v))} ${v > 0 ? 'late' : 'early'}`
    case 'fistSpeed':
      return speed(v, units)
    default:
      return `${v.toFixed(2)} s`
  }
}

/** How sure a figure of somebody is. */
export const sure = (figure: string, v: number, units: Units) =>
  `± ${['timing', 'miss', 'force', 'fistSpeed'].includes(figure) ? ability(figure, v, units) : ms(v)}`

/** A figure of a check in its unit. */
export function figure(v: number, unit: string, units: Units): string {
  const imperial = units === 'imperial'
  switch (unit) {
    case 'm':
      return length(v, units)
    case 's':
      return Math.abs(v) < 0.1 ? ms(v) : `${v.toFixed(2)} s`
    case 'N':
      return imperial
        ? `${Math.round(v / 4.448222)} lbf`
        : `${Math.round(v)} N (${(v / 9.80665).toFixed(v < 98 ? 1 : 0)} kg)`
    case 'kg':
      return imperial ? `${(v * 2.204623).toFixed(1)} lb` : `${v.toFixed(1)} kg`
    case 'm/s':
      return speed(v, units)
    case 'degrees':
      return `${Math.round(v)}°`
    default:
      return v.toFixed(Number.isInteger(v) ? 0 : 2)
  }
}

/** A text with a capital first letter. */
export const upper = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)
/** A text with a small first letter, to stand inside a sentence. */
export const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1)
