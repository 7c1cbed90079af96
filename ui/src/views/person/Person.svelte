<!-- Serves the coach at the desk: one person, what comes next on each bag, what they can do, what they are spared, their weeks. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { Act } from '../../lib/act.svelte'
  import { api, ask, type Schemas } from '../../lib/api/client'
  import { length, count, shortDay } from '../../lib/format'
  import { bands } from '../../lib/labels.gen'
  import { drafts } from '../../lib/drafts/drafts.svelte'
  import Files from '../../lib/files/Files.svelte'
  import { personFiles } from '../../lib/files/items'
  import Form from '../../lib/people/Form.svelte'
  import PutAway from '../../lib/people/PutAway.svelte'
  import Spared from '../../lib/people/Spared.svelte'
  import { take } from '../../lib/people/take'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import LogRows from '../../lib/ui/LogRows.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Can from './Can.svelte'
  import Next from './Next.svelte'
  import OnBags from './OnBags.svelte'
  import Weeks from './Weeks.svelte'

  let { params }: { params: { id: string } } = $props()
  const client = useQueryClient()
  const act = new Act(client)
  const page = createQuery(() => ({
    queryKey: ['person', params.id],
    queryFn: () => ask(api.GET('/api/trainees/{id}/page', { params: { path: { id: params.id } } })),
  }))
  const p = $derived(page.data)
  const t = $derived(p?.trainee)
  const left = $derived(drafts.of('people', params.id))
  let editing = $state(false)
  const who = $derived(
    !t
      ? ''
      : [
          ...(t.archived ? ['archived'] : []),
          t.stance,
          bands[t.band]?.toLowerCase(),
          ...(t.ageBand === 'adult' ? [] : [t.ageBand]),
          ...(t.height ? [`${length(t.height, session.units)} tall`] : []),
        ].join(', ') + (t.goals ? `. ${t.goals}` : ''),
  )

  const run = (b: Schemas['Proposal'], choice: 'accept' | 'change' = 'accept') =>
    void act.do('run', () => take(b, choice))
  function saved() {
    editing = false
    void client.invalidateQueries()
  }
</script>

<svelte:head><title>{t?.name ?? 'Person'} · Melodromos</title></svelte:head>
{#if page.isError}
  <Notice title="This person could not be read" text={page.error.message} again={() => page.refetch()}>
    <Button href="#/people">To the people</Button>
  </Notice>
{:else if !p || !t}
  <Notice title="Reading…" />
{:else}
  <div class="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
    <div>
      <h1 class="text-3xl leading-tight font-extrabold tracking-tight">{t.name}</h1>
      <p class="label">{who}</p>
    </div>
    <div class="flex flex-wrap gap-2">
      <Button href="#/people/{t.id}/progress">Progress</Button>
      <Button href="#/people/{t.id}/tests">Tests</Button>
      <Files of={t.name} items={personFiles(t.id)} />
      <Button onclick={() => (editing = !editing)}>Change</Button>
      <Button quiet href="#/people">Everybody</Button>
    </div>
  </div>
  {#if editing}
    <Form person={t} whole onsaved={saved} onleave={() => (editing = false)} />
    <PutAway person={t} />
  {:else}
    {#if left}
      <p class="mt-3 flex flex-wrap items-center gap-3 border-l-4 border-ink pl-3">
        <span><b>Not saved yet:</b> changes to {t.name}.</span>
        <Button small onclick={() => (editing = true)}>Go on</Button>
      </p>
    {/if}
    <Next next={p.next} bags={p.bags} busy={!!act.busy} onrun={run} />
    <Spared trainee={t} cautions={p.cautions} signs={p.signs} />
    {#if p.bags.length > 0}<OnBags id={t.id} bags={p.bags} busy={!!act.busy} onrun={run} />{/if}
    <div class="mt-8 grid gap-10 lg:grid-cols-2">
      <Can trainee={t} figures={p.figures} />
      <section class="seam pt-3" aria-labelledby="last">
        <h2 id="last" class="text-xl font-bold">Last rounds</h2>
        {#if p.recent.length === 0}
          <p class="mt-2 text-soft">No round yet.</p>
        {:else}
          <LogRows rows={p.recent.slice(0, 8)} zone={session.zone} dated />
        {/if}
        {#if p.classes.length > 0}
          <h3 class="mt-4 font-bold">In classes</h3>
          <ul>
            {#each p.classes.slice(0, 6) as k (k.hourId)}
              <li class="border-b border-rope py-2">
                <a href="#/class/{k.hourId}">{shortDay(k.at, session.zone)}</a>:
                {count(k.rounds, 'round')} on the {k.bags.join(' and the ')}
              </li>
            {/each}
          </ul>
        {/if}
        {#if t.notes}<p class="mt-3 text-sm">{t.notes}</p>{/if}
      </section>
    </div>
    <Weeks days={p.sessions} onplan={() => (editing = true)} />
  {/if}
{/if}
