const store = 'single-keys'

/** Whether single keys lead anywhere (WCAG 2.1.4), as it is set on this device. */
class Shortcuts {
  on = $state(localStorage.getItem(store) !== 'off')

  toggle() {
    this.on = !this.on
    localStorage.setItem(store, this.on ? 'on' : 'off')
  }

  /** A single key that nobody means as writing: none is while a field, a list, a slider, a dialog or a part of a sentence is open. */
  plain(e: KeyboardEvent): boolean {
    if (!this.on || e.ctrlKey || e.metaKey || e.altKey || e.defaultPrevented) return false
    const at = e.target as HTMLElement
    return (
      !at.closest('input, select, textarea, [role=slider], [role=dialog], [contenteditable], .part') &&
      !document.querySelector('[role=dialog], [data-popover-content]')
    )
  }
}
export const shortcuts = new Shortcuts()
