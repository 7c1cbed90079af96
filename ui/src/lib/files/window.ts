import { inText, pictureFile, pictures, type Sort } from './picture'

declare global {
  interface Window {
    /** What the command line asks a page for: the names of its pictures, and one of them as a file in base64. */
    melodromos: { pictures: () => string[]; picture: (name: string, sort: Sort) => Promise<string> }
  }
}

window.melodromos = {
  pictures: () => pictures().map((p) => p.name),
  picture: async (name, sort) => {
    const found = pictures().find((p) => p.name === name)
    if (!found) throw new Error(`There is no picture called ${name} here.`)
    return inText(await (await pictureFile(found.of, sort)).arrayBuffer())
  },
}
