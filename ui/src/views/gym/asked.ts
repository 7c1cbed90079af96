import type { Gym } from './settings.svelte'

type Option = { value: string; text: string }
export type Question = {
  label: string
  options: Option[]
  of: (g: Gym) => string
  set: (g: Gym, value: string) => void
}

const list = (options: Record<string, string>) => Object.entries(options).map(([value, text]) => ({ value, text }))

/** What is asked of a gym by a choice. */
export const questions: Question[] = [
  {
    label: 'Units',
    options: list({ metric: 'Metric', imperial: 'Imperial' }),
    of: (g) => g.units,
    set: (g, v) => (g.units = v as Gym['units']),
  },
  {
    label: 'Kicks, knees and elbows',
    options: list({ no: 'Not trained here', yes: 'Trained here' }),
    of: (g) => (g.kicks ? 'yes' : 'no'),
    set: (g, v) => (g.kicks = v === 'yes'),
  },
  {
    label: 'Call punches by',
    options: list({ numbers: 'Numbers', names: 'Names' }),
    of: (g) => g.punches,
    set: (g, v) => (g.punches = v as Gym['punches']),
  },
  {
    label: 'Call slips by',
    options: list({ sides: 'Lead and rear', inside: 'Inside and outside' }),
    of: (g) => g.slips,
    set: (g, v) => (g.slips = v as Gym['slips']),
  },
]

const seconds = { step: 0.01, factor: 1 }
export const ready = [{ field: 'getReady', name: 'Seconds, 3 to 30', step: 1, factor: 1 }]
export const standard = [
  { field: 'clean', name: 'Clean, %', step: 1, factor: 100 },
  { field: 'run', name: 'In a row', step: 1, factor: 1 },
  { field: 'rounds', name: 'Rounds', step: 1, factor: 1 },
  { field: 'days', name: 'Different days', step: 1, factor: 1 },
  { field: 'aDay', name: 'Rungs a day', step: 1, factor: 1 },
]
export const borders = [
  { field: 'slack', name: 'Too slack above, s', ...seconds },
  { field: 'head', name: 'Head movement above, s', ...seconds },
  { field: 'tight', name: 'Too tight below, s', ...seconds },
]

/** What is said of a gym, a row each, for a look at two versions. */
export function rowsOf(g: Gym) {
  const figures = (of: object, fields: typeof standard) =>
    fields.map((f) => ({
      name: f.name,
      text: String(Math.round((of as Record<string, number>)[f.field]! * f.factor * 100) / 100),
    }))
  return [
    { name: 'Name', text: g.name },
    { name: 'Time zone', text: g.zone },
    ...questions.map((q) => ({ name: q.label, text: q.options.find((o) => o.value === q.of(g))?.text ?? '' })),
    { name: 'Get ready, s', text: String(g.getReady) },
    ...figures(g.gate, standard),
    ...figures(g.borders, borders),
  ]
}
