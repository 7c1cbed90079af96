<!-- Serves the coach at the desk: when classes are held, and an address at which other programs read it. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { Act } from '../../lib/act.svelte'
  import { api, ask, type Schemas } from '../../lib/api/client'
  import { clockTime, day, shortDay } from '../../lib/format'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Unreadable from '../../lib/ui/Unreadable.svelte'
  import Addresses from './Addresses.svelte'
  import DateForm from './DateForm.svelte'

  type ClassDate = Schemas['ClassDate']
  const act = new Act(useQueryClient())
  const dates = createQuery(() => ({ queryKey: ['dates'], queryFn: () => ask(api.GET('/api/dates')) }))
  const sessions = createQuery(() => ({ queryKey: ['sessions', false], queryFn: () => ask(api.GET('/api/sessions')) }))
  const plans = $derived(sessions.data?.own ?? [])
  let changing = $state('') // id, or "new"
  const list = $derived((dates.data ?? []).toSorted((a, b) => (a.next ?? '9').localeCompare(b.next ?? '9')))
  const next = $derived(list.find((d) => d.next))
  const done = (d: ClassDate) => !d.next

  const at = (d: ClassDate) => ({ params: { path: { id: d.id } } })
  const put = (d: ClassDate, body: ClassDate) => ask(api.PUT('/api/dates/{id}', { ...at(d), body }))
  const skip = (d: ClassDate) =>
    act.do(d.id, () => put(d, { ...d, skipped: [...d.skipped, d.coming!] }), {
      said: `${d.name} is not held on ${shortDay(`${d.coming}T12:00:00Z`, 'UTC')}.`,
      undo: (now) => put(now, { ...now, skipped: d.skipped }),
      undone: `${d.name} is held on ${shortDay(`${d.coming}T12:00:00Z`, 'UTC')} after all.`,
    })
  const archive = (d: ClassDate) =>
    act.do(d.id, () => ask(api.DELETE('/api/dates/{id}', at(d))), {
      said: `${d.name} is no longer in the calendar.`,
      undo: () => ask(api.POST('/api/dates/{id}/restore', at(d))),
    })
</script>

<svelte:head><title>Calendar · Melodromos</title></svelte:head>
{#if dates.isError}
  <Notice title="The calendar could not be read" text={dates.error.message} again={() => dates.refetch()} />
{:else if !dates.data}
  <Notice title="Reading the calendar…" />
{:else}
  <div class="flex flex-wrap items-end justify-between gap-4">
    <div>
      <p class="label">Calendar</p>
      <h1 class="text-3xl font-extrabold">
        {next
          ? `${next.name}, ${day(next.next!, session.zone)} at ${clockTime(next.next!, session.zone)}`
          : 'No class to come.'}
      </h1>
    </div>
    <div class="flex flex-wrap gap-2">
      <Button quiet href="#/class">To the class</Button>
      <Button main disabled={changing === 'new'} onclick={() => (changing = 'new')}>Add a class</Button>
    </div>
  </div>
  <Unreadable of={['date']} />
  {#if changing === 'new'}<DateForm {plans} onleave={() => (changing = '')} />{/if}
  <div class="mt-6 grid gap-x-10 gap-y-8 lg:grid-cols-[1fr_24rem]">
    <ul class="seam" aria-label="Classes">
      {#each list as d (d.id)}
        <li class="border-b border-rope py-3">
          {#if changing === d.id}
            <DateForm date={d} {plans} onleave={() => (changing = '')} />
          {:else}
            <div class="grid items-center gap-x-6 gap-y-2 sm:grid-cols-[1fr_auto]">
              <div>
                <p class="font-bold">{d.name}</p>
                <p>{d.sentence}</p>
                <p class="text-sm text-soft">
                  {[
                    done(d) ? 'Over' : `Next on ${day(d.next!, session.zone)}`,
                    plans.find((p) => p.id === d.sessionId)?.session.name,
                    d.note,
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </p>
              </div>
              <span class="flex flex-wrap gap-2">
                {#if d.weekly && d.coming}<Button
                    disabled={!!act.busy}
                    onclick={() => skip(d)}
                    aria-label="Skip the next {d.name}">Skip the next</Button
                  >{/if}
                <Button onclick={() => (changing = d.id)} aria-label="Change {d.name}">Change</Button>
                <Button quiet disabled={!!act.busy} onclick={() => archive(d)} aria-label="Archive {d.name}"
                  >Archive</Button>
              </span>
            </div>
          {/if}
        </li>
      {:else}
        <li class="py-3 text-soft">Add the classes that you hold each week, or a single one.</li>
      {/each}
    </ul>
    <Addresses />
  </div>
{/if}
