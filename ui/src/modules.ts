// What the tests of the interface's modules load, one by one, outside the pages. No page imports it.
export { read as valueOf, same, write } from './lib/bench/fields'
export { merged, patchOf } from './lib/drills/patch'
export { RunClock } from './lib/run/clock'
export { Follow } from './lib/run/follow'
export { Outbox, sendLeftovers } from './lib/run/outbox.svelte'
export * from './lib/trace/geometry'
