import { api, ask, type Schemas } from '../api/client'
import { upper, type Units } from '../format'
import type { Doc } from './fields'

export type Kind = Doc['kind']
export type Field = Schemas['Field']

/** What is said of each kind of bag, by the core. Loaded with the session: everything signed in can count on it. */
class Kinds {
  all = $state<Schemas['Model'][]>([])
  problem = $state('')

  async load() {
    if (this.all.length > 0) return // they are the product's own
    this.problem = ''
    try {
      this.all = await ask(api.GET('/api/kinds'))
    } catch (e) {
      this.problem = (e as Error).message
    }
  }

  of(kind: string) {
    return this.all.find((m) => m.kind === kind) ?? this.all[0]!
  }

  field(name: string) {
    return this.all.flatMap((m) => [...m.measures, ...m.around]).find((f) => f.field === name)
  }
}

export const kinds = new Kinds()

export const kindName = (kind: string) => upper(kinds.of(kind).name)

/** The measures that belong to a document: some go with one of its words only. */
export const belongs = (f: Field, doc: Doc) =>
  !f.only || (doc as unknown as Record<string, unknown>)[f.only.field] === f.only.is

/** The measures with a figure. */
export const measuresOf = (doc: Doc) =>
  kinds.of(doc.kind).measures.filter((f) => f.quantity !== 'words' && belongs(f, doc))

/** How a quantity is shown in a gym's units: shown = SI × factor. */
export function shownAs(of: Field['quantity'], units: Units): { unit: string; factor: number; digits: number } {
  const imperial = units === 'imperial'
  switch (of) {
    case 'length':
      return imperial ? { unit: 'in', factor: 1 / 0.0254, digits: 2 } : { unit: 'cm', factor: 100, digits: 1 }
    case 'height':
      return imperial ? { unit: 'in', factor: 1 / 0.0254, digits: 1 } : { unit: 'cm', factor: 100, digits: 1 }
    case 'light':
      return imperial ? { unit: 'oz', factor: 35.27396, digits: 1 } : { unit: 'g', factor: 1000, digits: 0 }
    case 'heavy':
      return imperial ? { unit: 'lb', factor: 2.204623, digits: 0 } : { unit: 'kg', factor: 1, digits: 1 }
    case 'speed':
      return imperial ? { unit: 'ft/s', factor: 3.28084, digits: 1 } : { unit: 'm/s', factor: 1, digits: 1 }
    case 'stiffness':
      return imperial ? { unit: 'lb/in', factor: 0.00571015, digits: 2 } : { unit: 'N/m', factor: 1, digits: 0 }
    case 'spring':
      return { unit: 'Nm/rad', factor: 1, digits: 1 }
    case 'tempo':
      return { unit: '/min', factor: 1, digits: 0 }
    case 'seconds':
      return { unit: 's', factor: 1, digits: 0 }
    case 'moments':
      return { unit: 's', factor: 1, digits: 2 }
    case 'count':
      return { unit: '', factor: 1, digits: 0 }
    case 'share':
      return { unit: '%', factor: 100, digits: 0 }
    default:
      return { unit: '', factor: 1, digits: 3 }
  }
}

/** A value of a field in words, for lists of settings. */
export function valueOf(field: string, v: number, units: Units): string {
  const s = shownAs(kinds.field(field)?.quantity ?? 'ratio', units)
  return `${(v * s.factor).toFixed(s.digits).replace(/\.0+$/, '')}${s.unit ? ' ' + s.unit : ''}`
}

export const labelOf = (field: string) => kinds.field(field)?.label ?? field

/** Whether somebody can set a measure with a tape; some come along with another. */
export const isSet = (field: string) => !kinds.field(field)?.follows

export const parts: Record<string, string> = {
  anchor: 'Anchor',
  upper: 'Upper anchor',
  lower: 'Lower anchor',
  swivel: 'Swivel',
  base: 'Push on the base',
}
