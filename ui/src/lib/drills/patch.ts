type Fields = Record<string, unknown>
export type Patch = Fields

const isObject = (v: unknown): v is Fields => typeof v === 'object' && v !== null && !Array.isArray(v)

/** A document with a patch (RFC 7396, JSON merge patch): null takes a field out. */
export function merged<T>(doc: T, patch: Patch): T {
  const out: Fields = { ...(doc as Fields) }
  for (const [name, v] of Object.entries(patch)) {
    if (v === null) delete out[name]
    else out[name] = isObject(v) ? merged(isObject(out[name]) ? out[name] : {}, v) : v
  }
  return out as T
}

/** The patch that sets one field, which may stand in an object after a dot, and what goes with it. */
export function patchOf(field: string, value: unknown, more: Patch = {}): Patch {
  const [outer, inner] = field.split('.') as [string, string?]
  return { ...more, [outer]: inner ? { [inner]: value } : value }
}
