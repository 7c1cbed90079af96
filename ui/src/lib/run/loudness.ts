/** What is heard on the floor, each with its own loudness. */
export type Channel = 'bell' | 'warning' | 'strike' | 'board' | 'voice'
export type Mix = Record<Channel, number>

const even: Mix = { bell: 1, warning: 1, strike: 1, board: 1, voice: 1 }

export const mixSteps = [
  { value: 0, text: 'Off' },
  { value: 0.35, text: 'Low' },
  { value: 1, text: 'Full' },
]
export const nearestStep = (v: number) =>
  mixSteps.toSorted((a, b) => Math.abs(a.value - v) - Math.abs(b.value - v))[0]!.value

/** How loud each sort of sound is beside the others, as it is set on this device. */
export function mix(): Mix {
  try {
    return { ...even, ...(JSON.parse(localStorage.getItem('mix') ?? '{}') as Partial<Mix>) }
  } catch {
    return even
  }
}

export function setMix(to: Mix) {
  try {
    localStorage.setItem('mix', JSON.stringify(to))
  } catch {
    // a browser that keeps nothing plays all of them alike
  }
}

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
