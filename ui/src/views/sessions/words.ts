/** The codes of a table with their words, to choose from. */
export const options = <T extends string>(of: Record<T, string>) =>
  (Object.keys(of) as T[]).map((value) => ({ value, text: of[value] }))
