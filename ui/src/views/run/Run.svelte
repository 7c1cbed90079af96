<!-- Serves the floor: the trainee a few metres off, and the coach with one thumb free. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { onDestroy } from 'svelte'
  import { push } from 'svelte-spa-router'
  import type { Schemas } from '../../lib/api/client'
  import { markNames } from '../../lib/format'
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
    if (e.ctrlKey || e.metaKey || e.altKey || e.repeat) return
    const at = e.target as HTMLElement
    const pressing = at.closest('button, a, [role=radio]')
    const taken = pressing?.getAttribute('data-state') === 'checked'
    const key = e.key.toLowerCase()
    if (key === ' ' && pressing && at.matches(':focus-visible') && floor.live) return // Space does what the focus shows
    const forth = key === ' ' || key === 'pagedown' || key === 'arrowright' // a page-turner pedal sends these
    const mark = marks[Number(key) - 1]
    if (floor.live) {
      if (key === 'f') floor.strike(floor.left, e.timeStamp)
      else if (key === 'j') floor.strike(floor.right, e.timeStamp)
      else if (forth) void round.togglePause()
      else if (key === 'escape' || key === 'pageup' || key === 'arrowleft') void round.askToStop()
      else if (key === 'm') round.mute()
      else if (mark) round.mark(mark)
      else return
    } else if (forth && !at.closest('input, select, textarea') && (!pressing || (key === ' ' && taken)))
      floor.start(params.id)
    else if (key === 'escape') void push('/')
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
<svelte:window onkeydown={keys} onpagehide={() => round.leave()} onpopstate={back} />
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
