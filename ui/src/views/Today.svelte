<!-- Serves the coach at the gym door: who is next, on what, and one press to start. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask } from '../lib/api/client'
  import { percent } from '../lib/format'
  import { session } from '../lib/session.svelte'
  import Caution from '../lib/ui/Caution.svelte'
  import LogRows from '../lib/ui/LogRows.svelte'
  import Notice from '../lib/ui/Notice.svelte'

  const today = createQuery(() => ({ queryKey: ['today'], queryFn: () => ask(api.GET('/api/today')) }))
  const next = $derived(today.data?.next[0])
  const then = $derived(today.data?.next.slice(1) ?? [])
</script>

<svelte:head><title>Today · Melodromos</title></svelte:head>
{#if today.isError}
  <Notice title="Today could not be read" text={today.error.message} again={() => today.refetch()} />
{:else if !today.data}
  <Notice title="Reading today…" />
{:else if !next}
  <Notice
    title="Nothing is planned yet."
    text={today.data.rigs === 0 ? 'Begin with a bag: measure how it hangs, and see at what tempo it can be struck.' : 'Give somebody a drill on a bag.'}
  >
    {#if today.data.rigs === 0}<a class="button main" href="#/bags/new">Add a bag</a>
    {:else}<a class="button main" href="#/people">{today.data.people === 0 ? 'Add a person' : 'What comes next for each'}</a><a class="button" href="#/drills/new">Make a drill</a>{/if}
  </Notice>
{:else}
  <section class="grid items-end gap-x-10 gap-y-6 lg:grid-cols-[1fr_auto]">
    <div>
      <p class="label">Next on the floor</p>
      <h1 class="mt-1 text-4xl leading-tight font-extrabold tracking-tight">{next.trainee} on the {next.rigName}</h1>
      <p class="mt-2 max-w-prose text-lg">{next.drillName}. {next.why}</p>
      <div class="mt-5 flex flex-wrap gap-2">
        {#if next.held}<a class="button main" href="#/people/{next.traineeId}">To {next.trainee}</a>{:else}<a class="button main !px-8 !text-lg" href="#/run/{next.drillId}">Run it</a>{/if}
        <a class="button" href="#/{next.doc.text === undefined ? 'drills' : 'compose'}/{next.drillId}">Change it</a>
        <a class="button quiet" href="#/bags/{next.rigId}">Look at the bag</a>
      </div>
    </div>
    <dl class="flex gap-8 lg:justify-end">
      {#each next.figures as f (f.label)}<div><dt class="label">{f.label}</dt><dd class="figure text-7xl whitespace-nowrap">{f.value}</dd></div>{/each}
    </dl>
  </section>

  <div class="mt-10 grid gap-10 lg:grid-cols-2">
    <section class="seam pt-4" aria-labelledby="then">
      <div class="flex items-baseline justify-between gap-3"><h2 id="then" class="text-xl font-bold">Then</h2><a href="#/people">What comes next for each</a></div>
      {#if then.length === 0}
        <p class="mt-2 text-soft">Nobody else has a drill. <a href="#/drills/new">Make one</a>.</p>
      {:else}
        <ul class="mt-1">
          {#each then as n (n.drillId)}
            <li class="grid grid-cols-[1fr_auto] items-center gap-3 border-b border-rope py-3">
              <div>
                <p class="font-bold">{n.trainee} <span class="font-normal text-soft">on the {n.rigName}, {n.figures.map((f) => `${f.value} ${f.label}`).slice(0, 2).join(', ')}</span></p>
                <p class="text-sm text-soft">{n.drillName}.{n.held ? ` ${n.why}` : n.last?.summary && !n.last.summary.counts ? ' Last time nothing was judged up to the bell.' : n.last?.summary ? ` Last time ${percent(n.last.summary.share)} clean, ${n.last.summary.longest} in a row${n.through ? ': change one thing.' : '.'}` : ' Not run yet.'}</p>
              </div>
              {#if n.held}<a class="button quiet" href="#/people/{n.traineeId}" aria-label="To {n.trainee}">Held</a>{:else}<a class="button" href="#/run/{n.drillId}" aria-label="Run {n.drillName} with {n.trainee}">Run</a>{/if}
            </li>
          {/each}
        </ul>
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
  <div class="mt-10 max-w-prose"><Caution>Wraps and gloves on, warm up softly first. Stop for dizziness, headache, chest pain, or a numb or painful wrist or shoulder; after a knock to the head, no more that day and see a doctor.</Caution></div>
{/if}
