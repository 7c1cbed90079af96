<!-- The frame of the planning views: the mark, the way round, who is signed in, and the keys. -->
<script lang="ts">
  import { Dialog } from 'bits-ui'
  import { untrack, type Snippet } from 'svelte'
  import { toast } from 'svelte-sonner'
  import { push, router } from 'svelte-spa-router'
  import { count } from '../format'
  import { leftovers } from '../run/outbox.svelte'
  import { session } from '../session.svelte'
  import { shortcuts } from '../shortcuts.svelte'
  import Button from './Button.svelte'
  import Mark from './Mark.svelte'
  import Over from './Over.svelte'
  import TakeBack from './TakeBack.svelte'

  let { children }: { children: Snippet } = $props()
  let help = $state(false)

  const places = [
    { path: '/', name: 'Today', key: 't' },
    { path: '/class', name: 'Class', key: 'h' },
    { path: '/bags', name: 'Bags', key: 'b' },
    { path: '/drills', name: 'Drills', key: 'd' },
    { path: '/people', name: 'People', key: 'p' },
    { path: '/log', name: 'Log', key: 'l' },
    { path: '/gym', name: 'Gym', key: 'g' },
  ]
  const here = (path: string) =>
    path === '/'
      ? router.location === '/'
      : router.location.startsWith(path) ||
        (path === '/class' && /^\/(sessions|calendar)/.test(router.location)) ||
        (path === '/log' && router.location.startsWith('/review')) ||
        (path === '/drills' && /^\/(compose|library)/.test(router.location)) ||
        (path === '/bags' && router.location.startsWith('/cards')) ||
        (path === '/gym' && /^\/(delay|import)/.test(router.location))

  // The focus follows a change of view to its heading, unless the view puts it into a field.
  let last = ''
  $effect(() => {
    const now = router.location
    if (last && last !== now) untrack(() => toHeading(document.querySelector('main h1')))
    last = now
  })
  function toHeading(before: Element | null) {
    const from = document.activeElement
    const began = performance.now()
    const look = () => {
      const at = document.activeElement
      const waited = performance.now() - began
      if (waited > 3000 || (at !== from && at !== document.body && at !== null)) return
      const heading = document.querySelector<HTMLElement>('main h1')
      if (!heading || (heading === before && waited < 300)) return void requestAnimationFrame(look)
      heading.tabIndex = -1
      heading.focus({ preventScroll: true })
    }
    requestAnimationFrame(look)
  }

  async function signOut() {
    try {
      await session.signOut()
    } catch (e) {
      toast(`${(e as Error).message} You are still signed in.`)
    }
  }

  function keys(e: KeyboardEvent) {
    if (!shortcuts.plain(e)) return
    const place = places.find((p) => p.key === e.key)
    if (place) void push(place.path)
    else if (e.key === '?') help = true
    else return
    e.preventDefault()
  }
</script>

<svelte:window onkeydown={keys} />
<Button
  href="#main"
  main
  class="sr-only focus:not-sr-only focus:absolute focus:z-10"
  onclick={(e) => {
    e.preventDefault()
    document.getElementById('main')?.focus()
  }}>To the page</Button>
<header class="border-b-2 border-ink print:hidden">
  <div class="mx-auto flex max-w-[76rem] flex-wrap items-center gap-x-6 px-4 sm:px-6">
    <a href="#/" class="flex items-center gap-2 py-2 no-underline" aria-label="Melodromos, today">
      <Mark /><span class="figure text-2xl max-sm:sr-only">Melodromos</span>
    </a>
    <nav
      class="order-last flex w-full justify-between overflow-x-auto md:order-none md:w-auto md:flex-1 md:justify-start"
      aria-label="Main">
      {#each places as p (p.path)}
        <a
          href="#{p.path}"
          class="px-[1.2vw] py-3 font-semibold max-sm:text-[0.95rem] sm:px-3 no-underline {here(p.path)
            ? 'shadow-[inset_0_-4px_0_var(--ink)]'
            : 'text-soft hover:text-ink'}"
          aria-current={here(p.path) ? 'page' : undefined}>{p.name}</a>
      {/each}
    </nav>
    <div class="ml-auto flex items-center gap-1 text-sm">
      <TakeBack />
      <Button quiet onclick={() => (help = true)} aria-label="Keys">?</Button>
      <Button quiet onclick={signOut}>Sign out</Button>
    </div>
  </div>
</header>
{#if leftovers.waiting > 0}
  <p class="border-b-2 border-ink bg-shade px-4 py-2 text-center font-semibold print:hidden" role="status">
    {count(leftovers.waiting, 'round')}
    {leftovers.waiting === 1 ? 'waits' : 'wait'} on this device to be sent, and {leftovers.waiting === 1
      ? 'goes'
      : 'go'} out as soon as the line is back.
  </p>
{/if}
<main id="main" tabindex="-1" class="mx-auto max-w-[76rem] px-4 pt-6 pb-16 outline-none sm:px-6 print:p-0">
  {@render children()}
</main>

<Over bind:open={help} title="Keys">
  <dl class="mt-3 grid grid-cols-[7rem_1fr] gap-y-1">
    {#each places as p (p.key)}<dt class="font-bold uppercase">{p.key}</dt>
      <dd>{p.name}</dd>{/each}
    <dt class="font-bold">← → ↑ ↓</dt>
    <dd>step a figure; with Shift by more</dd>
    <dt class="col-span-2 seam mt-3 pt-3 text-soft">In the composer</dt>
    <dt class="font-bold">M, C</dt>
    <dd>mirror, counterpart</dd>
    <dt class="font-bold">Space</dt>
    <dd>hear it</dd>
    <dt class="font-bold">[ and ]</dt>
    <dd>easier, harder; for a technique too</dd>
    <dt class="font-bold">Ctrl Z, Y</dt>
    <dd>undo, redo</dd>
    <dt class="col-span-2 seam mt-3 pt-3 text-soft">On the run screen</dt>
    <dt class="font-bold">F, J</dt>
    <dd>a hit with the left, the right hand</dd>
    <dt class="font-bold">1 to 5</dt>
    <dd>mark: missed, off line, wild, touched, found again</dd>
    <dt class="font-bold">Space, →</dt>
    <dd>start, pause, go on; a page-turner pedal does it too</dd>
    <dt class="font-bold">Escape, ←</dt>
    <dd>stop, pressed twice; the hits are kept</dd>
    <dt class="font-bold">M</dt>
    <dd>sound off and on</dd>
    <dt class="col-span-2 seam mt-3 pt-3 text-soft">On the floor of a class, besides</dt>
    <dt class="font-bold">S, B, R</dt>
    <dd>skip, back, again</dd>
    <dt class="font-bold">L, +, -</dt>
    <dd>longer rest, faster, slower</dd>
    <dt class="font-bold">W, G, X</dt>
    <dd>wild: again later; a try that came off, one that did not</dd>
  </dl>
  <label class="seam mt-4 flex min-h-11 items-center gap-3 pt-3">
    <input
      type="checkbox"
      class="size-6 shrink-0 accent-ink"
      checked={shortcuts.on}
      onchange={() => shortcuts.toggle()} />
    <span>Keyboard shortcuts: single keys open pages and change drills, on this device</span>
  </label>
  <Dialog.Close class="button mt-3">Close</Dialog.Close>
</Over>
