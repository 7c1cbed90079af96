<!-- Serves the floor: the trainee a few metres off, and the coach with one thumb free. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { onDestroy } from 'svelte'
  import { push } from 'svelte-spa-router'
  import type { Schemas } from '../../lib/api/client'
  import { markNames } from '../../lib/labels.gen'
  import { kept, keptUp, meant } from '../../lib/run/keys'
  import { leftovers } from '../../lib/run/outbox.svelte'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Unreadable from '../../lib/ui/Unreadable.svelte'
  import { Floor, readied } from './floor.svelte'
  import Live from './Live.svelte'
  import ReadyPage from './Ready.svelte'

  let { params }: { params: { id: string } } = $props()
  const client = useQueryClient()
  const floor = new Floor((id, sent) => {
    void client.invalidateQueries()
    if (!sent && session.me) void leftovers.send(session.me.id) // tried again until it arrives
    void push(sent ? `/review/${id}` : '/')
  })
  const round = floor.round
  const ready = createQuery(() => ({ queryKey: ['run', params.id], queryFn: () => readied(params.id) }))
  $effect(() => {
    floor.ready = ready.data ?? null
  })
  // A round that is refused may be so for what others have changed since the page was read.
  $effect(() => {
    if (round.problem) void ready.refetch()
  })
  const marks = Object.keys(markNames) as Schemas['MarkIn']['kind'][]

  function keys(e: KeyboardEvent) {
    if (!floor.live) return before(e)
    const key = meant(e)
    const mark = marks[Number(key) - 1]
    if (e.repeat) return key === 'forth' ? kept(e) : undefined
    if (key === 'f') floor.strike(floor.left, e.timeStamp)
    else if (key === 'j') floor.strike(floor.right, e.timeStamp)
    else if (key === 'forth') void round.togglePause()
    else if (key === 'back') void round.askToStop()
    else if (key === 'm') round.mute()
    else if (mark) round.mark(mark)
    else return
    kept(e)
  }
  // Before the round what has the focus takes Space, but for a choice that is taken already.
  function before(e: KeyboardEvent) {
    const key = meant(e)
    const pressing = (e.target as HTMLElement).closest('button, a, [role=radio], input')
    const taken = pressing?.getAttribute('data-state') === 'checked'
    if (key === 'forth' && !e.repeat && (!pressing || (e.key === ' ' && taken))) floor.start(params.id)
    else if (e.key === 'Escape') void push('/')
    else return
    e.preventDefault()
  }

  // Back does not leave a round by itself: it has a step of its own in the history, and asks as the other ways do.
  const step = () => history.pushState(null, '', location.href)
  $effect(() => {
    if (floor.live) step()
  })
  function back() {
    const going = round.phase === 'running' || round.phase === 'paused'
    if (!going || location.hash !== `#/run/${params.id}`) return // another address was asked for
    if (!round.asking) step()
    void round.askToStop()
  }
  onDestroy(() => round.leave())
</script>

<svelte:head>
  <title>{ready.data ? `${ready.data.trainee.name}, ${ready.data.drill.name}` : 'Round'} · Melodromos</title>
</svelte:head>
<svelte:window
  onkeydowncapture={keys}
  onkeyupcapture={(e) => floor.live && keptUp(e)}
  onpagehide={() => round.leave()}
  onpopstate={back} />
<svelte:document onvisibilitychange={() => round.seenAgain()} />

<main
  class="flex h-dvh flex-col overflow-hidden bg-ground text-ink select-none {floor.live
    ? 'low:grid low:grid-cols-[minmax(8rem,1fr)_minmax(0,2fr)_minmax(8rem,1fr)] low:grid-rows-[auto_minmax(0,1fr)_auto] low:gap-2 low:px-4 low:pb-2'
    : ''}"
  data-phase={round.phase}>
  {#if ready.isError}
    <div class="p-6">
      <Notice title="This drill cannot be run" text={ready.error.message} again={() => ready.refetch()}>
        <Button href="#/">To today</Button>
      </Notice>
      <Unreadable of={['drill', 'assignment', 'bag']} />
    </div>
  {:else if !floor.ready}
    <div class="p-6"><Notice title="Reading the drill…" /></div>
  {:else if !floor.live}
    <ReadyPage {floor} ready={floor.ready} id={params.id} />
  {:else if round.run}
    <Live {floor} run={round.run} {marks} />
  {/if}
</main>
