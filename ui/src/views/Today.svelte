<!-- Serves the coach at the gym door: who is next, on what, and one press to start. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { directions } from '../lib/labels.gen'
  import { Act } from '../lib/act.svelte'
  import { api, ask, type Schemas } from '../lib/api/client'
  import { clockTime, shortDay } from '../lib/format'
  import { take } from '../lib/people/take'
  import { session } from '../lib/session.svelte'
  import Button from '../lib/ui/Button.svelte'
  import Caution from '../lib/ui/Caution.svelte'
  import LogRows from '../lib/ui/LogRows.svelte'
  import Notice from '../lib/ui/Notice.svelte'

  const act = new Act(useQueryClient())
  const today = createQuery(() => ({ queryKey: ['today'], queryFn: () => ask(api.GET('/api/today')) }))
  const next = $derived(today.data?.next[0])
  const then = $derived(today.data?.next.slice(1) ?? [])
  const also = $derived(today.data?.also ?? [])
  const unread = $derived(today.data?.unread ?? [])
  // Where each stands, with what can be done about it.
  const lists: Record<Schemas['NotRead']['kind'], string> = {
    bag: '#/bags',
    drill: '#/drills',
    assignment: '#/drills',
    session: '#/sessions',
    class: '#/class',
    date: '#/calendar',
    round: '#/log',
  }
  const run = (p: Schemas['Proposal'], choice: 'accept' | 'change' = 'accept') =>
    act.do(p.traineeId, () => take(p, choice))
</script>

<svelte:head><title>Today · Melodromos</title></svelte:head>
{#if unread.length > 0}
  <p class="mb-6 max-w-prose border-l-4 border-ink pl-4" role="status">
    <b>Could not be read:</b>
    {#each unread.slice(0, 5) as u, i (u.id)}{i > 0 ? ', ' : ''}<a href={lists[u.kind]}>{u.name}</a
      >{/each}{unread.length > 5 ? ` and ${unread.length - 5} more` : ''}. Nothing else is touched by it.
  </p>
{/if}
{#if today.isError}
  <Notice title="Today could not be read" text={today.error.message} again={() => today.refetch()} />
{:else if !today.data}
  <Notice title="Reading today…" />
{:else if !next}
  <Notice
    title="Nothing is planned yet."
    text={today.data.rigs === 0
      ? 'Begin with a bag: measure how it hangs, and see at what tempo it can be struck.'
      : 'Give somebody a drill on a bag.'}>
    {#if today.data.rigs === 0}<Button main href="#/bags/new">Add a bag</Button>
    {:else}<Button main href="#/people">{today.data.people === 0 ? 'Add a person' : 'What comes next for each'}</Button
      ><Button href="#/drills/new">Make a drill</Button>{/if}
  </Notice>
{:else}
  <div class="flex flex-wrap gap-x-10">
    {#if today.data.hour}
      {@const h = today.data.hour}
      <p class="mb-6 flex flex-wrap items-center gap-x-4 gap-y-2 border-l-4 border-ink pl-4">
        <b>{h.name}, {h.state === 'ready' ? 'planned' : h.state === 'paused' ? 'paused' : 'under way'}</b>
        <Button small main href="#/floor/{h.id}">To the floor</Button>
        <Button small href="#/class/{h.id}">Its plan</Button>
      </p>
    {/if}
    {#if today.data.class}
      {@const d = today.data.class}
      <p class="mb-6 flex flex-wrap items-center gap-x-4 gap-y-2 border-l-4 border-rope pl-4">
        <span><b>{d.name}</b>, {shortDay(d.next!, session.zone)} at {clockTime(d.next!, session.zone)}</span>
        <Button small href="#/class{d.sessionId ? `?session=${d.sessionId}` : ''}">Plan it</Button>
        <Button small quiet href="#/calendar">Calendar</Button>
      </p>
    {/if}
  </div>
  {#each today.data.tired as t (t.rigId)}
    <p class="mb-6 flex flex-wrap items-center gap-x-4 gap-y-2 border-l-4 border-ink pl-4" role="status">
      <span class="max-w-prose"><b>A bag tires.</b> {t.said}</span>
      <Button small href="#/bags/{t.rigId}">Look at the bag</Button>
    </p>
  {/each}
  <section class="grid items-end gap-x-10 gap-y-6 lg:grid-cols-[1fr_auto]">
    <div>
      <p class="label">Next on the floor</p>
      <h1 class="mt-1 text-4xl leading-tight font-extrabold tracking-tight">{next.trainee} on the {next.rigName}</h1>
      <p class="mt-2 max-w-prose text-lg">{next.name}. {next.why}</p>
      <div class="mt-5 flex flex-wrap gap-2">
        {#if next.barred}
          <Button main href="#/people/{next.traineeId}">To {next.trainee}</Button>
        {:else}
          <Button main class="!px-8 !text-lg" disabled={act.busy !== ''} onclick={() => run(next)}>Run it</Button>
          <Button disabled={act.busy !== ''} onclick={() => run(next, 'change')}>Change it</Button>
        {/if}
        <Button quiet href="#/bags/{next.rigId}">Look at the bag</Button>
      </div>
    </div>
    <dl class="flex gap-8 lg:justify-end">
      {#if next.clean != null}<div>
          <dt class="label">expected clean</dt>
          <dd class="figure text-7xl">{Math.round(100 * next.clean)}<span class="text-3xl"> %</span></dd>
        </div>{/if}
      <div>
        <dt class="label">goal in a row</dt>
        <dd class="figure text-7xl">{next.target}</dd>
      </div>
      {#if next.level != null}<div>
          <dt class="label">level</dt>
          <dd class="figure text-7xl">{next.level.toFixed(1)}</dd>
        </div>{/if}
    </dl>
  </section>

  <div class="mt-10 grid gap-10 lg:grid-cols-2">
    <section class="seam pt-4" aria-labelledby="then">
      <h2 id="then" class="text-xl font-bold">Then</h2>
      {#if then.length === 0}
        <p class="mt-2 text-soft">Nobody else trains here yet. <a href="#/people">Add a person</a>.</p>
      {:else}
        <ul class="mt-1">
          {#each then as n (n.traineeId)}
            <li class="grid grid-cols-[1fr_auto] items-center gap-3 border-b border-rope py-3">
              <div>
                <p class="font-bold">
                  {n.trainee}
                  <span class="font-normal text-soft">on the {n.rigName}, {directions[n.move].toLowerCase()}</span>
                </p>
                <p class="text-sm text-soft">{n.name}. {n.why}</p>
              </div>
              {#if n.barred}
                <Button quiet href="#/people/{n.traineeId}" aria-label="To {n.trainee}">Held</Button>
              {:else}
                <Button disabled={act.busy !== ''} onclick={() => run(n)} aria-label="Run {n.name} with {n.trainee}"
                  >Run</Button>
              {/if}
            </li>
          {/each}
        </ul>
      {/if}
      {#if also.length > 0}
        <details class="mt-4">
          <summary class="cursor-pointer font-semibold">Also given: {also.length}</summary>
          <ul>
            {#each also as a (a.assignmentId)}
              <li class="grid grid-cols-[1fr_auto] items-center gap-3 border-b border-rope py-2">
                <div>
                  <p><b>{a.trainee}</b> <span class="text-soft">on the {a.rigName}</span></p>
                  <p class="text-sm text-soft">{a.name}. {a.held ? `Held back: ${a.held}.` : a.last}</p>
                </div>
                {#if a.held}
                  <Button quiet href="#/people/{a.traineeId}" aria-label="To {a.trainee}">Held</Button>
                {:else}
                  <Button href="#/run/{a.assignmentId}" aria-label="Run {a.name} with {a.trainee}">Run</Button>
                {/if}
              </li>
            {/each}
          </ul>
        </details>
      {/if}
    </section>
    <section class="seam pt-4" aria-labelledby="recent">
      <h2 id="recent" class="text-xl font-bold">Last rounds</h2>
      {#if today.data.recent.length === 0}
        <p class="mt-2 text-soft">No round has been run yet.</p>
      {:else}
        <LogRows rows={today.data.recent} zone={session.zone} dated />
        <p class="mt-3"><a href="#/log">The whole log</a></p>
      {/if}
    </section>
  </div>
  <div class="mt-10 max-w-prose"><Caution>{today.data.caution}</Caution></div>
{/if}
