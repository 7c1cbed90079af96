import { shortcuts } from '../shortcuts.svelte'

/** What a key means on a live screen: forth pauses and goes on, back asks to end, anything else is the key itself, in small letters. */
export type Meant = 'forth' | 'back' | (string & {}) | ''

const pressable = 'button, a, input, summary, [role=radio], [role=checkbox], [role=switch]'
const writing = 'input:not([type=checkbox], [type=radio]), select, textarea, [role=slider], [contenteditable]'
// A page-turner pedal sends these, or Space.
const forth = new Set(['pagedown', 'arrowright'])
const back = new Set(['pageup', 'arrowleft'])

/** What a key means while a round or a class is live, empty where it is not for the screen. Space always pauses and goes on, whatever was pressed
 * last and has the focus: Enter presses that. Where single keys are switched off, Space presses what has the focus, and pauses only where nothing has. */
export function meant(e: KeyboardEvent): Meant {
  const at = e.target as HTMLElement
  const key = e.key.toLowerCase()
  if (e.ctrlKey || e.metaKey || e.altKey || at.closest(writing)) return ''
  const over = document.querySelector('[role=dialog]') // Escape leaves it, and arrows choose in it
  if (key === 'pagedown' || (forth.has(key) && !over)) return 'forth'
  if (back.has(key) && !over) return 'back'
  if (key === 'escape') return over ? '' : 'back'
  if (key === ' ') return shortcuts.on || !at.closest(pressable) ? 'forth' : ''
  if (!shortcuts.on || key.length > 1) return ''
  return over ? '' : key
}

/** Keeps a key from whatever has the focus. */
export function kept(e: KeyboardEvent) {
  e.preventDefault()
  e.stopPropagation()
}

/** Keeps Space, as it comes up again, from what has the focus: some browsers press a button only then. */
export function keptUp(e: KeyboardEvent) {
  if (e.key === ' ' && meant(e) === 'forth') kept(e)
}

/** Of a dialog on a live screen: where Space pauses, Enter presses what else Space would choose. */
export function pressed(e: KeyboardEvent) {
  const at = (e.target as HTMLElement).closest<HTMLElement>('[role=radio], [role=checkbox], [role=switch]')
  if (e.key !== 'Enter' || !at || !shortcuts.on) return false
  at.click()
  return true
}
