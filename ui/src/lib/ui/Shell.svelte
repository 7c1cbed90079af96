<!-- The frame of the planning views: the mark, the way round, who is signed in, and the keys. -->
<script lang="ts">
  import { Dialog } from 'bits-ui'
  import type { Snippet } from 'svelte'
  import { push, router } from 'svelte-spa-router'
  import { session } from '../session.svelte'
  import { shortcuts } from '../shortcuts.svelte'
  import Button from './Button.svelte'
  import GymSettings from './GymSettings.svelte'
  import Mark from './Mark.svelte'
  import Over from './Over.svelte'

  let { children }: { children: Snippet } = $props()
  let help = $state(false)
  let gym = $state(false)

  const places = [
    { path: '/', name: 'Today', key: 't' },
    { path: '/bags', name: 'Bags', key: 'b' },
    { path: '/drills', name: 'Drills', key: 'd' },
    { path: '/people', name: 'People', key: 'p' },
    { path: '/log', name: 'Log', key: 'l' },
  ]
  const here = (path: string) =>
    path === '/'
      ? router.location === '/'
      : router.location.startsWith(path) ||
        (path === '/log' && router.location.startsWith('/review')) ||
        (path === '/drills' && /^\/(compose|library)/.test(router.location)) ||
        (path === '/bags' && router.location.startsWith('/cards'))

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
    <nav class="order-last -mx-1 flex w-full overflow-x-auto sm:order-none sm:w-auto sm:flex-1" aria-label="Main">
      {#each places as p (p.path)}
        <a
          href="#{p.path}"
          class="px-3 py-3 font-semibold no-underline {here(p.path)
            ? 'shadow-[inset_0_-4px_0_var(--ink)]'
            : 'text-soft hover:text-ink'}"
          aria-current={here(p.path) ? 'page' : undefined}>{p.name}</a>
      {/each}
    </nav>
    <div class="ml-auto flex items-center gap-1 text-sm">
      <Button quiet onclick={() => (gym = true)} aria-label="{session.me?.gym}, Gym: units, borders and schools"
        ><span class="max-lg:hidden">{session.me?.gym}</span><span class="lg:hidden">Gym</span></Button>
      <Button quiet onclick={() => (help = true)} aria-label="Keys">?</Button>
      <Button quiet onclick={() => session.signOut()}>Sign out</Button>
    </div>
  </div>
</header>
<main id="main" tabindex="-1" class="mx-auto max-w-[76rem] px-4 pt-6 pb-16 outline-none sm:px-6 print:p-0">
  {@render children()}
</main>

<GymSettings bind:open={gym} />
<Over bind:open={help} title="Keys">
  <dl class="mt-3 grid grid-cols-[7rem_1fr] gap-y-1">
    {#each places as p (p.key)}<dt class="font-bold uppercase">{p.key}</dt>
      <dd>{p.name}</dd>{/each}
    <dt class="font-bold">← → ↑ ↓</dt>
    <dd>move a slider or a knob of the picture; with Shift by more</dd>
    <dt class="col-span-2 seam mt-3 pt-3 text-soft">In the composer</dt>
    <dt class="font-bold">M, C</dt>
    <dd>mirror, counterpart</dd>
    <dt class="font-bold">Space</dt>
    <dd>hear it</dd>
    <dt class="font-bold">[ and ]</dt>
    <dd>the easier and the harder neighbour; for a technique too</dd>
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
    <dd>stop, at the second press; the hits are kept</dd>
    <dt class="font-bold">M</dt>
    <dd>sound off and on</dd>
  </dl>
  <label class="seam mt-4 flex min-h-11 items-center gap-3 pt-3">
    <input type="checkbox" class="size-5 accent-ink" checked={shortcuts.on} onchange={() => shortcuts.toggle()} />
    <span>Single keys go to pages and change drills, on this device</span>
  </label>
  <Dialog.Close class="button mt-3">Close</Dialog.Close>
</Over>
