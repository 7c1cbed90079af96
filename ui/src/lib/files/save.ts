import { ask } from '../api/client'

type Answer = { data?: Blob; error?: unknown; response: Response }

/** Hands something to the browser to be saved under a name. */
export function hand(file: Blob, name: string) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(file)
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000) // it is read after the click
}

/** Fetches a file and hands it over under the name that the server gives it; a refusal is thrown as ask throws it. */
export async function fetchFile(call: Promise<Answer>) {
  let named = ''
  const file = await ask(
    call.then((answer) => {
      named = nameIn(answer.response.headers.get('Content-Disposition') ?? '')
      return answer
    }),
  )
  hand(file, named)
}

/** The name in a Content-Disposition (RFC 6266), whose extended form (RFC 8187) goes before. */
export function nameIn(header: string): string {
  const extended = /filename\*=utf-8''([^;]+)/i.exec(header)?.[1]
  if (extended) return decodeURIComponent(extended)
  const plain = /filename="((?:[^"\\]|\\.)*)"|filename=([^;\s]+)/i.exec(header)
  return (plain?.[1]?.replace(/\\(.)/g, '$1') ?? plain?.[2] ?? '') || 'melodromos'
}
