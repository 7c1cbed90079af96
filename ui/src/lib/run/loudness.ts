/** How loud rounds are on this device, as it is set on the page of the gym; kept in the browser. */
export type Loudness = 'full' | 'quiet' | 'off'

const place = 'loudness'
export const loudnesses: { value: Loudness; text: string }[] = [
  { value: 'full', text: 'Full' },
  { value: 'quiet', text: 'Quiet' },
  { value: 'off', text: 'Off' },
]
const volumes: Record<Loudness, number> = { full: 0.8, quiet: 0.25, off: 0 }

export function loudness(): Loudness {
  try {
    const kept = localStorage.getItem(place)
    return kept && kept in volumes ? (kept as Loudness) : 'full'
  } catch {
    return 'full'
  }
}

export const volume = (): number => volumes[loudness()]

export function setLoudness(to: Loudness) {
  try {
    localStorage.setItem(place, to)
  } catch {
    // a browser that keeps nothing plays at full
  }
}
