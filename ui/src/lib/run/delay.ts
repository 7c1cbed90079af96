import type { Schemas } from '../api/client'

/** How late this device tells of a tap, as it was measured; kept in the browser, since it belongs to the device and not to a gym. */
type Kept = Schemas['DelayFound'] & { at: string; with: 'clicks' | 'flashes' }

const place = 'tap-delay'

export function kept(): Kept | null {
  try {
    const k = JSON.parse(localStorage.getItem(place) ?? 'null') as Kept | null
    return k && Number.isFinite(k.late) ? k : null
  } catch {
    return null
  }
}

/** The delay in seconds; null where it was not measured. */
export const delay = (): number | null => kept()?.late ?? null

/** Keeps a measurement. Says whether the browser could. */
export function keep(found: Schemas['DelayFound'], by: Kept['with']): boolean {
  try {
    localStorage.setItem(place, JSON.stringify({ ...found, at: new Date().toISOString(), with: by }))
    return true
  } catch {
    return false
  }
}

export function forget() {
  try {
    localStorage.removeItem(place)
  } catch {
    // a browser that keeps nothing has nothing to forget
  }
}
