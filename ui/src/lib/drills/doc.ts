import type { Schemas } from '../api/client'

export type Doc = Schemas['DrillDoc']
export type Line = Schemas['DrillDocCombination']
export type Technique = Schemas['DrillDocSpeedBag']

/** Whether a drill is thrown from the notation; else it is a technique of the speed bag. */
export const isLine = (doc: Doc): doc is Line => doc.kind === 'combination'

/** Where an assignment is changed: the composer for a line, the editor for a technique. */
export const editorOf = (doc: Doc, id: string) => `/${isLine(doc) ? 'compose' : 'drills'}/${id}`
