/** A key for each stretch of a sentence: a part keeps its own however many words come and go about it, so that what it has opened stays. */
export function keysOf(names: string[]): string[] {
  const seen = new Map<string, number>()
  return names.map((name) => {
    const nth = seen.get(name) ?? 0
    seen.set(name, nth + 1)
    return `${name} ${nth}`
  })
}
