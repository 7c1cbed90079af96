import type { Schemas } from '../api/client'

export type Doc = Schemas['RigDoc']
/** A rig's document as its fields, whichever of them its kind has: for what goes through all kinds by name. */
export type Measures = Record<string, unknown>
export type Place = Schemas['Place']
type Setting = Schemas['Setting']

const split = (field: string) => (field.startsWith('place.') ? { at: 'place' as const, path: field.slice(6).split('.') } : { at: 'doc' as const, path: field.split('.') })

/** A measure by its field: of the rig's document, or of its place after "place.". */
export function read(doc: Doc, place: Place, field: string): number {
  const { at, path } = split(field)
  let v: unknown = at === 'place' ? place : doc
  for (const name of path) v = (v as Record<string, unknown> | undefined)?.[name]
  return typeof v === 'number' ? v : 0
}

/** The documents with some measures set anew. */
export function write(doc: Doc, place: Place, settings: Pick<Setting, 'field' | 'to'>[]): { doc: Doc; place: Place } {
  const out = { doc: structuredClone(doc), place: structuredClone(place) }
  for (const s of settings) {
    const { at, path } = split(s.field)
    let v = out[at] as unknown as Record<string, unknown>
    for (const name of path.slice(0, -1)) v = v[name] as Record<string, unknown>
    v[path.at(-1)!] = s.to
  }
  return out
}
