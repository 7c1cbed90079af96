import { toast } from 'svelte-sonner'

/** Copies what is shown to be taken along, such as a link, and says so. */
export async function copy(text: string, what: string) {
  try {
    await navigator.clipboard.writeText(text)
    toast(`The ${what} is copied.`)
  } catch {
    toast(`This browser does not copy: select the ${what} and copy it by hand.`)
  }
}
