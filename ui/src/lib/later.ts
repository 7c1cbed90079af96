import type { Component } from 'svelte'
import { wrap } from 'svelte-spa-router/wrap'
import Unreached from './ui/Unreached.svelte'

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- each view has props of its own
export type AnyView = Component<any>
type Module = { default: AnyView }
export type Loads = () => Promise<Module>

/** The views that nobody has opened yet. */
const unopened = new Set<Loads>()

/** A view that is loaded when it is first opened. Where it cannot be, a page in its place says so, and becomes the view once it can. */
export function later(load: Loads) {
  unopened.add(load)
  const asyncComponent = () => loaded(load).catch((): Module => ({ default: Unreached }))
  return wrap({ asyncComponent, props: { load } })
}

/** Loads a view. A browser remembers that a module could not be loaded: it is asked for under another address then. */
export async function loaded(load: Loads, tries = 0): Promise<Module> {
  try {
    const view = await load()
    unopened.delete(load)
    return view
  } catch (cause) {
    const address = /https?:\S+\.js/.exec((cause as Error).message)?.[0]
    if (tries === 0 || !address) throw cause
    const view = (await import(/* @vite-ignore */ `${address}?again=${tries}`)) as Module
    unopened.delete(load)
    return view
  }
}

const first = 4000 // ms that the view at hand has to itself

/** Loads all views, one after the other while there is nothing else to do, so that none is missed once the line is gone. */
export async function loadAll() {
  await new Promise((done) => setTimeout(done, first))
  for (const load of unopened) {
    await new Promise((done) => (window.requestIdleCallback ?? setTimeout)(done))
    await loaded(load).catch(() => undefined) // it is tried again when it is opened
  }
}
