import font from '@fontsource-variable/archivo/files/archivo-latin-standard-normal.woff2?url'
import { session } from '../session.svelte'

export type Sort = 'svg' | 'png'

/** What a picture is called stands on whatever holds it. */
export const pictured = 'data-picture'

/** The pictures of this page, by name. */
export function pictures(): { name: string; of: HTMLElement | SVGElement }[] {
  return [...document.querySelectorAll<HTMLElement | SVGElement>(`[${pictured}]`)]
    .map((of) => ({ name: of.getAttribute(pictured) ?? '', of }))
    .filter((p) => p.name && p.of.getBoundingClientRect().width > 0)
}

/** What of the page's styles a drawing needs to look the same without them, as presentation attributes (SVG 2, 6.6). */
const looks = [
  'fill',
  'fill-opacity',
  'stroke',
  'stroke-width',
  'stroke-opacity',
  'stroke-dasharray',
  'stroke-linecap',
  'stroke-linejoin',
  'opacity',
  'visibility',
  'paint-order',
  'dominant-baseline',
]
const letters = ['font-family', 'font-size', 'font-weight', 'letter-spacing', 'text-anchor']
const left = ['class', 'style', 'tabindex', 'aria-labelledby', 'aria-hidden']

const svg = 'http://www.w3.org/2000/svg'

/** Copies a drawing with how it looks written into each of its parts; what is not shown stays behind. */
function copied(from: Element): Element | null {
  const style = getComputedStyle(from)
  if (style.display === 'none' && from.localName !== 'title') return null
  const to = from.cloneNode(false) as Element
  for (const a of [...to.attributes]) {
    if (left.includes(a.name) || a.name.startsWith('on') || a.name.startsWith('data-')) to.removeAttribute(a.name)
  }
  if (from instanceof SVGSVGElement && style.overflow === 'visible') to.setAttribute('overflow', 'visible')
  if (from instanceof SVGGraphicsElement) {
    for (const name of looks) write(to, name, style.getPropertyValue(name))
    if (style.transform !== 'none' && !from.hasAttribute('transform')) to.setAttribute('transform', style.transform)
  }
  if (from instanceof SVGTextContentElement) {
    for (const name of letters) write(to, name, style.getPropertyValue(name))
    // No attribute tells the width of letters: a percentage in a style does.
    to.setAttribute('style', `font-stretch:${style.fontStretch}`)
  }
  for (const child of from.childNodes) {
    if (child.nodeType === Node.TEXT_NODE) to.append(child.cloneNode())
    else if (child instanceof Element) {
      const part = copied(child)
      if (part) to.append(part)
    }
  }
  return to
}

const usual: Record<string, string> = {
  'fill-opacity': '1',
  'stroke-opacity': '1',
  opacity: '1',
  visibility: 'visible',
  stroke: 'none',
  'stroke-dasharray': 'none',
  'stroke-linecap': 'butt',
  'stroke-linejoin': 'miter',
  'paint-order': 'normal',
  'dominant-baseline': 'auto',
  'letter-spacing': 'normal',
}
const write = (to: Element, name: string, value: string) =>
  usual[name] === value ? to.removeAttribute(name) : to.setAttribute(name, value)

/** The colour that a picture lies on. */
function ground(of: Element): string {
  for (let at: Element | null = of; at; at = at.parentElement) {
    const colour = getComputedStyle(at).backgroundColor
    if (colour && !/^(transparent|rgba\(0, 0, 0, 0\))$/.test(colour)) return colour
  }
  return 'white'
}

let letterForms: Promise<string> | null = null
/** The product's letters, to stand in the drawing itself. */
function face(): Promise<string> {
  letterForms ??= (async () => {
    const letters = inText(await (await fetch(font)).arrayBuffer())
    return `@font-face{font-family:'Archivo Variable';font-weight:100 900;font-stretch:62% 125%;src:url(data:font/woff2;base64,${letters}) format('woff2')}`
  })()
  return letterForms
}

/** Bytes as text, in base64. */
export function inText(of: ArrayBuffer): string {
  const bytes = new Uint8Array(of)
  let text = ''
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
  return btoa(text)
}

/** A picture of the page as a drawing that stands by itself: the drawings in it, each in its place, with colours, lines and letters
 * written in. */
export async function drawn(of: HTMLElement | SVGElement): Promise<{ text: string; width: number; height: number }> {
  const box = of.getBoundingClientRect()
  const [width, height] = [Math.round(box.width), Math.round(box.height)]
  const whole = document.createElementNS(svg, 'svg')
  whole.setAttribute('viewBox', `0 0 ${width} ${height}`)
  whole.setAttribute('width', String(width))
  whole.setAttribute('height', String(height))
  const title = document.createElementNS(svg, 'title')
  title.textContent = [of.getAttribute(pictured), document.querySelector('h1')?.textContent?.trim(), session.me?.gym]
    .filter(Boolean)
    .join(', ')
  const style = document.createElementNS(svg, 'style')
  style.textContent = await face()
  const back = document.createElementNS(svg, 'rect')
  for (const [name, value] of Object.entries({ width, height, fill: ground(of) }))
    back.setAttribute(name, String(value))
  whole.append(title, style, back)
  const all = of instanceof SVGSVGElement ? [of] : [...of.querySelectorAll('svg')]
  for (const one of all) {
    if (one.parentElement?.closest('svg')) continue
    const part = copied(one)
    if (!part) continue
    const at = one.getBoundingClientRect()
    for (const [name, value] of Object.entries({
      x: at.x - box.x,
      y: at.y - box.y,
      width: at.width,
      height: at.height,
    }))
      part.setAttribute(name, String(value))
    whole.append(part)
  }
  return { text: new XMLSerializer().serializeToString(whole), width, height }
}

const fine = 2 // dots of a PNG for each of the page's

/** A picture of the page as a file. */
export async function pictureFile(of: HTMLElement | SVGElement, sort: Sort): Promise<Blob> {
  const { text, width, height } = await drawn(of)
  if (sort === 'svg') return new Blob([text], { type: 'image/svg+xml' })
  const image = new Image()
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(text)}`
  await image.decode()
  const canvas = document.createElement('canvas')
  canvas.width = fine * width
  canvas.height = fine * height
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height)
  return new Promise((done, failed) =>
    canvas.toBlob((file) => (file ? done(file) : failed(new Error('The picture is too large.'))), 'image/png'),
  )
}
