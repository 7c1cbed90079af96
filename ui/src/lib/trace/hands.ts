/** Which hand it is for this person, as a word: left or right, or lead or rear where the stance is not known. */
export function handWord(hand: string, stance: string): string {
  if (!stance || hand === 'both' || !hand) return hand
  return (hand === 'lead') === (stance === 'orthodox') ? 'left' : 'right'
}

/** The same as letters for a disc: L, R, or LR for both at once; empty where the stance is not known. */
export function handLetter(hand: string, stance: string): string {
  if (!stance || !hand) return ''
  return hand === 'both' ? 'LR' : handWord(hand, stance).slice(0, 1).toUpperCase()
}

/** What stands on a strike: the punch in a combination, else the hand. What the notation says of rebounds is left out. */
export function faceOf(s: { text?: string | undefined; hand: string }, stance: string): string {
  return s.text ? s.text.replace(/:\d+$/, '') : handLetter(s.hand, stance)
}

/** Whether a text stands on a disc, or beside it. */
export const onDisc = (text: string) => text.length <= 3
