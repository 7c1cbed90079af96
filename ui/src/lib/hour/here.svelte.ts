const place = 'class-last'

type Last = { people: string[]; bags: string[]; minutes: number }

/** Who was here, which bags were used and for how long, the last time that a class was planned on this device. */
export function lastTime(): Last | null {
  try {
    return JSON.parse(localStorage.getItem(place) ?? 'null') as Last | null
  } catch {
    return null
  }
}

export function rememberTime(last: Last) {
  try {
    localStorage.setItem(place, JSON.stringify(last))
  } catch {
    // then it is asked again the next time
  }
}
