/** What people are called where there is little room: by the first name, with as much of the next as tells them apart. */
export function shortNames(names: string[]): Map<string, string> {
  const first = (name: string) => name.split(' ')[0] ?? name
  return new Map(
    names.map((name) => {
      const alike = names.filter((n) => n !== name && first(n) === first(name))
      const rest = name.split(' ').slice(1).join(' ')
      return [name, alike.length > 0 && rest ? `${first(name)} ${rest.charAt(0)}.` : first(name)]
    }),
  )
}
