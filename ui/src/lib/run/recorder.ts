import type { Schemas } from '../api/client'

type Source = Schemas['NewRun']['source']
const place = 'hits-recorded-by'
const usual: Source[] = ['keys', 'device', 'none'] // simulated hits are chosen anew each time

/** What recorded the hits of the last round on this device: a hall with bags and no sensors says "nothing" once. */
export function lastRecorder(): Source {
  try {
    return usual.find((s) => s === localStorage.getItem(place)) ?? 'keys'
  } catch {
    return 'keys' // a browser that keeps nothing
  }
}

export function rememberRecorder(source: Source) {
  try {
    if (usual.includes(source)) localStorage.setItem(place, source)
  } catch {
    // then it is asked again the next time
  }
}
