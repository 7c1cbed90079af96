/** Puts the focus into the first field of a form once it is there, wherever it was. */
export const takesFocus = (field: HTMLElement) => field.focus()
