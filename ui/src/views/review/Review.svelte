<!-- Serves the coach and the trainee right after the round: how it went, where it broke, what it was like. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { Act } from '../../lib/act.svelte'
  import { api, ask } from '../../lib/api/client'
  import { editorOf } from '../../lib/drills/doc'
  import { clockTime, count, countdown, day, markNames } from '../../lib/format'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import Strikes from './Strikes.svelte'
  import Told from './Told.svelte'

  let { params }: { params: { id: string } } = $props()
  const review = createQuery(() => ({
    queryKey: ['review', params.id],
    queryFn: () => ask(api.GET('/api/runs/{id}/review', { params: { path: { id: params.id } } })),
  }))
  const r = $derived(review.data)
  const act = new Act(useQueryClient())

  function remove(removed: boolean) {
    const at = { params: { path: { id: params.id } } }
    const back = () => ask(api.POST('/api/runs/{id}/restore', at))
    if (!removed) return act.do('bring back', back, { unchanged: 'Nothing was changed.' })
    return act.do('remove', () => ask(api.POST('/api/runs/{id}/remove', at)), {
      said: 'The round is removed from the log.',
      undo: back,
      undone: 'The round is back in the log.',
      unchanged: 'Nothing was changed.',
    })
  }
  const when = $derived(r?.startedAt ? `, ${day(r.startedAt, r.zone)} at ${clockTime(r.startedAt, r.zone)}` : '')
  const ended = $derived.by(() => {
    if (!r || (r.ended !== 'stopped' && r.ended !== 'vanished')) return ''
    const at = countdown(Math.max(0, (r.untilUs - r.run.timeline.start) / 1e6))
    return r.ended === 'stopped' ? `, stopped at ${at}` : `, screen lost at ${at}`
  })
  const marked = $derived(
    Object.entries(Object.groupBy(r?.marks ?? [], (m) => m.kind))
      .map(([kind, list]) => {
        const name = markNames[kind]?.toLowerCase() ?? kind
        return count(list?.length ?? 0, name, name)
      })
      .join(', '),
  )
</script>

<svelte:head><title>Review · Melodromos</title></svelte:head>
{#if review.isError}
  <Notice title="This round could not be read" text={review.error.message} again={() => review.refetch()}>
    <Button href="#/log">To the log</Button>
  </Notice>
{:else if !r}
  <Notice title="Judging the round…" />
{:else}
  <p class="label">{r.run.trainee.name}, {r.run.drillName} on the {r.run.rigName}{when}{ended}</p>
  {#if r.run.removed}
    <p class="my-2 flex flex-wrap items-center gap-3 border-l-4 border-ink pl-3" role="status">
      <span>
        <strong>Removed from the log.</strong> It does not count for the ladder, or for what {r.run.trainee.name} can do.
      </span>
      <Button onclick={() => remove(false)}>Bring it back</Button>
    </p>
  {/if}
  <Problem text={act.problem} />
  <div class="grid items-start gap-x-10 gap-y-4 lg:grid-cols-[1fr_auto]">
    <Told {r} />
    <div class="flex flex-wrap gap-2 lg:w-80 lg:justify-end">
      {#if r.run.assignmentId}
        <Button main href="#/run/{r.run.assignmentId}">Run it again</Button>
        <Button href="#{editorOf(r.run.doc, r.run.assignmentId)}">Change one thing</Button>
      {/if}
      <Button quiet href="#/log">To the log</Button>
      {#if !r.run.removed}
        <Button quiet onclick={() => remove(true)}>Remove from the log</Button>
      {/if}
    </div>
  </div>
  {#if marked}<p class="mt-3">Marked: {marked}.</p>{/if}
  {#if r.strikes.length > 0 && r.judged && r.hits.length > 0}<Strikes {r} />{/if}
  {#if r.judged}
    <p class="seam mt-8 pt-3 text-sm text-soft">
      {r.run.source === 'standin' ? 'The demo hits are simulated, and nobody’s.' : 'The hits are measured.'}
      When each strike was due, and how much is allowed, are modelled from the bag.
    </p>
  {/if}
{/if}
