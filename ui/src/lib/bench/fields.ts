import type { Schemas } from '../api/client'

export type Doc = Schemas['RigDoc']
export type Place = Schemas['Place']
type Setting = Schemas['Setting']
type Value = number | string | boolean
type Fields = Record<string, unknown>

const split = (field: string) =>
  field.startsWith('place.')
    ? { at: 'place' as const, path: field.slice(6).split('.') }
    : { at: 'doc' as const, path: field.split('.') }

/** A field by its name: of the rig's document, or of its place after "place."; undefined where it is not there. */
export function valueIn(doc: Doc, place: Place, field: string): unknown {
  const { at, path } = split(field)
  let v: unknown = at === 'place' ? place : doc
  for (const name of path) v = (v as Fields | undefined)?.[name]
  return v
}

/** A measure by its field; 0 where it is not there. */
export function read(doc: Doc, place: Place, field: string): number {
  const v = valueIn(doc, place, field)
  return typeof v === 'number' ? v : 0
}

/** The documents with some fields set anew; undefined takes one away. */
export function write(
  doc: Doc,
  place: Place,
  settings: { field: Setting['field']; to: Value | undefined }[],
): { doc: Doc; place: Place } {
  const out = { doc: structuredClone(doc), place: structuredClone(place) }
  for (const s of settings) {
    const { at, path } = split(s.field)
    let v = out[at] as unknown as Fields
    for (const name of path.slice(0, -1)) v = v[name] as Fields
    const last = path.at(-1)!
    if (s.to === undefined) delete v[last]
    else v[last] = s.to
  }
  return out
}

/** Whether two documents say the same: what was not measured may be left out. */
export const same = (x: unknown, y: unknown) => JSON.stringify(sorted(x)) === JSON.stringify(sorted(y))

function sorted(v: unknown): unknown {
  if (v === null || typeof v !== 'object') return v
  return Object.fromEntries(
    Object.entries(v)
      .filter(([, x]) => x !== 0 && x !== '' && x !== false)
      .sort(([p], [q]) => (p < q ? -1 : 1))
      .map(([k, x]) => [k, sorted(x)]),
  )
}
