import type { Schemas } from '../api/client'
import { length, type Units } from '../format'
import { bands } from '../labels.gen'

type Person = Schemas['Trainee']
type Field = 'stance' | 'band' | 'ageBand' | 'dominant' | 'weak' | 'sport' | 'school'
export type Question = {
  field: Field
  label: string
  /** By value; the first is meant where nothing is said. */
  options: { value: string; text: string }[]
  note?: string
  /** Asked where somebody is known, and not of a newcomer at the door. */
  later?: boolean
  /** The value that is written as nothing. */
  empty?: string
}

const list = (options: Record<string, string>) => Object.entries(options).map(([value, text]) => ({ value, text }))

/** What is asked of a person by a choice. */
export const questions: Question[] = [
  {
    field: 'stance',
    label: 'Stance',
    options: list({ orthodox: 'Orthodox (left hand leads)', southpaw: 'Southpaw (right hand leads)' }),
  },
  {
    field: 'band',
    label: 'Skill to begin with',
    options: list(bands),
    note: 'Estimates start from it; tests and rounds take over.',
  },
  {
    field: 'ageBand',
    label: 'Age',
    options: list({ adult: 'Adult', child: 'Child', youth: 'Youth', senior: 'Senior' }),
  },
  {
    field: 'dominant',
    label: 'Stronger hand',
    options: list({ stance: 'By the stance', left: 'Left', right: 'Right' }),
    empty: 'stance',
    later: true,
  },
  {
    field: 'weak',
    label: 'Weaker side',
    options: list({ none: 'Neither', lead: 'Lead', rear: 'Rear' }),
    empty: 'none',
    note: 'That hand is taken to be a tenth slower (assumed).',
    later: true,
  },
  {
    field: 'sport',
    label: 'Sport',
    options: list({ boxing: 'Boxing', kicking: 'With kicks' }),
    later: true,
  },
  {
    field: 'school',
    label: 'First on the speed bag',
    options: list({ basic: 'Basic rhythm', fistRoll: 'Fist roll' }),
    empty: 'basic',
    note: 'Two schools: rhythm first, or the roll first because it is easier once it is exact.',
    later: true,
  },
]

export const answerTo = (q: Question, person: Person) => person[q.field] || q.empty || q.options[0]!.value

export function answer(q: Question, person: Person, value: string) {
  Object.assign(person, { [q.field]: value === q.empty ? '' : value })
}

/** What is said of a person, a row each, for a look at two versions. */
export function rowsOf(person: Person, body: Schemas['Field'][], units: Units) {
  const measured = (field: string) => (person as unknown as Record<string, number | undefined>)[field]
  const w = person.weeks
  return [
    { name: 'Name', text: person.name },
    ...questions.map((q) => ({
      name: q.label,
      text: q.options.find((o) => o.value === answerTo(q, person))?.text ?? '',
    })),
    ...body.map((f) => ({ name: f.label, text: measured(f.field) ? length(measured(f.field)!, units) : '' })),
    { name: 'Weeks', text: w ? `from ${w.from}, ${w.days.length} days, ${w.rounds} to ${w.most} rounds` : '' },
    { name: 'Goals', text: person.goals ?? '' },
    { name: 'Notes', text: person.notes ?? '' },
  ]
}
