<!-- Serves the floor: a room that looks up from its bags, and the coach with one thumb free. -->
<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { onDestroy, onMount } from 'svelte'
  import { push } from 'svelte-spa-router'
  import { doings } from '../../lib/class/doings.svelte'
  import { ClassFloor, type Deed } from '../../lib/class/floor.svelte'
  import { kept, keptUp, meant, pressed } from '../../lib/run/keys'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Unreadable from '../../lib/ui/Unreadable.svelte'
  import Controls from './Controls.svelte'
  import Head from './Head.svelte'
  import Now from './Now.svelte'
  import Over from './Over.svelte'
  import Ready from './Ready.svelte'
  import Resting from './Resting.svelte'
  import Stations from './Stations.svelte'

  let { params }: { params: { id: string } } = $props()
  const client = useQueryClient()
  const floor = new ClassFloor()
  let hidden = $state(false) // sound only
  onMount(() => {
    void floor.load(params.id)
    void doings.load().catch(() => {})
  })
  onDestroy(() => {
    floor.leave()
    void client.invalidateQueries()
  })

  const deeds: Record<string, Deed> = {
    s: 'skip',
    b: 'back',
    r: 'repeat',
    l: 'longer',
    w: 'wild',
    '+': 'faster',
    '-': 'slower',
    g: 'got',
    x: 'failed',
  }
  function keys(e: KeyboardEvent) {
    if (!floor.live) return ready(e)
    if (pressed(e)) return kept(e)
    const key = meant(e)
    const deed = deeds[key]
    if (e.repeat) return key === 'forth' ? kept(e) : undefined
    if (key === 'forth') void floor.pause()
    else if (key === 'back') void floor.askToEnd()
    else if (key === 'm') floor.mute()
    else if (deed) void floor.deed(deed)
    else return
    kept(e)
  }
  // Before the class, and after it, what has the focus takes Space.
  function ready(e: KeyboardEvent) {
    const key = meant(e)
    const pressing = (e.target as HTMLElement).closest('button, a')
    if (key === 'forth' && floor.phase === 'ready' && !pressing && !e.repeat) void floor.start()
    else if (e.key === 'Escape') void push(`/class/${params.id}`)
    else return
    e.preventDefault()
  }
  // Back does not leave a class by itself: it has a step of its own in the history, and asks as the other ways do.
  const step = () => history.pushState(null, '', location.href)
  $effect(() => {
    if (floor.live) step()
  })
  function back() {
    if (!floor.live || location.hash !== `#/floor/${params.id}`) return
    if (!floor.asking) step()
    void floor.askToEnd()
  }
</script>

<svelte:head><title>{floor.class?.name ?? 'Class'} · Melodromos</title></svelte:head>
<svelte:window
  onkeydowncapture={keys}
  onkeyupcapture={(e) => floor.live && keptUp(e)}
  onpopstate={back}
  onpagehide={() => floor.leave()} />
<svelte:document onvisibilitychange={() => floor.seenAgain()} />

<main class="flex h-dvh flex-col overflow-hidden bg-ground text-ink select-none" data-phase={floor.phase}>
  {#if floor.problem}
    <div class="p-6">
      <Notice title="This class cannot be run" text={floor.problem} again={() => floor.load(params.id)}>
        <Button href="#/class">To the class</Button>
      </Notice>
      <Unreadable of={['class']} id={params.id} />
    </div>
  {:else if !floor.class}
    <div class="p-6"><Notice title="Reading the class…" /></div>
  {:else if floor.phase === 'over'}
    <Over theClass={floor.class} />
  {:else if floor.phase === 'ready' || floor.phase === 'starting'}
    <Ready {floor} id={params.id} />
  {:else if hidden}
    <button class="flex-1 p-6 text-center text-2xl text-soft" onclick={() => (hidden = false)}>
      Sound only. Press to see it again.
    </button>
  {:else}
    <Head {floor} />
    <Now {floor} />
    <div class="min-h-0 flex-1 overflow-y-auto px-4 sm:px-6">
      {#if floor.resting}
        <Resting {floor} />
      {:else}
        <Stations {floor} />
      {/if}
    </div>
    <Controls {floor} onhide={() => (hidden = true)} />
  {/if}
</main>
