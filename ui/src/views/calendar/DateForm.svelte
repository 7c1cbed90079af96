<!-- When a class is held: once, or every week on the same day. -->
<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { untrack } from 'svelte'
  import { Act } from '../../lib/act.svelte'
  import { api, ask, Refusal, type Schemas } from '../../lib/api/client'
  import { dayIn } from '../../lib/format'
  import { newKey } from '../../lib/key'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Problem from '../../lib/ui/Problem.svelte'

  type ClassDate = Schemas['ClassDate']
  type Props = { date?: ClassDate; plans: Schemas['SessionPlan'][]; onleave: () => void }
  let { date, plans, onleave }: Props = $props()
  const act = new Act(useQueryClient())
  const key = newKey()
  const fresh: ClassDate = {
    id: '',
    version: 0,
    name: 'Evening class',
    day: dayIn(session.zone),
    at: '18:30',
    minutes: 60,
    weekly: true,
    skipped: [],
    note: '',
  }
  let d = $state<ClassDate>(untrack(() => structuredClone($state.snapshot(date) ?? fresh)))
  let wrong = $state('') // field
  const other = $derived($state.snapshot(d.skipped).toSorted())

  async function save(e: SubmitEvent) {
    e.preventDefault()
    wrong = ''
    const { until, sessionId, ...rest } = $state.snapshot(d)
    const body = {
      ...rest,
      ...(until && d.weekly ? { until } : {}),
      ...(sessionId ? { sessionId } : {}),
      skipped: d.weekly ? rest.skipped : [],
    }
    const kept = await act.do(
      'save',
      () =>
        date
          ? ask(api.PUT('/api/dates/{id}', { params: { path: { id: d.id } }, body }))
          : ask(api.POST('/api/dates', { body, params: { header: { 'Idempotency-Key': key } } })),
      {
        said: `${d.name} is in the calendar.`,
        unchanged: 'Nothing was saved.',
        refused: (cause) => {
          wrong = cause instanceof Refusal ? cause.field.replace(/^body\./, '') : ''
          return false
        },
      },
    )
    if (kept) onleave()
  }
</script>

<form class="mt-3 grid max-w-3xl gap-x-4 gap-y-2 sm:grid-cols-[1fr_auto_auto_auto]" onsubmit={save}>
  <label
    ><span class="label">Name</span>
    <input class="input mt-1" required maxlength="120" aria-invalid={wrong === 'name'} bind:value={d.name} /></label>
  <label
    ><span class="label">{d.weekly ? 'First day' : 'Day'}</span>
    <input class="input mt-1" type="date" required aria-invalid={wrong === 'day'} bind:value={d.day} /></label>
  <label
    ><span class="label">At</span>
    <input class="input mt-1" type="time" required aria-invalid={wrong === 'at'} bind:value={d.at} /></label>
  <label
    ><span class="label block">Minutes</span>
    <input
      class="input mt-1 !w-24"
      type="number"
      required
      min="5"
      max="600"
      step="5"
      aria-invalid={wrong === 'minutes'}
      bind:value={d.minutes} /></label>
  <div class="col-span-full flex flex-wrap items-end gap-x-6 gap-y-2">
    <label class="flex min-h-11 items-center gap-3">
      <input type="checkbox" class="size-6 accent-ink" bind:checked={d.weekly} /> Every week
    </label>
    {#if d.weekly}
      <label
        ><span class="label">Last day, if there is one</span>
        <input
          class="input mt-1"
          type="date"
          min={d.day}
          aria-invalid={wrong === 'until'}
          bind:value={d.until} /></label>
    {/if}
    <label class="min-w-56 flex-1"
      ><span class="label">What is done</span>
      <select class="input mt-1" bind:value={d.sessionId}>
        <option value={undefined}>Everybody their own drill</option>
        {#each plans as p (p.id)}<option value={p.id}>{p.session.name}</option>{/each}
      </select></label>
  </div>
  <label class="col-span-full"
    ><span class="label">Note, read by whoever has an address</span>
    <input class="input mt-1" maxlength="400" bind:value={d.note} /></label>
  {#if d.weekly && other.length > 0}
    <p class="col-span-full flex flex-wrap items-center gap-2 text-sm">
      <span class="text-soft">Not held on</span>
      {#each other as off (off)}
        <Button
          small
          type="button"
          aria-label="Hold it on {off} after all"
          onclick={() => (d.skipped = d.skipped.filter((x) => x !== off))}>{off} ×</Button>
      {/each}
    </p>
  {/if}
  <div class="col-span-full"><Problem text={act.problem} /></div>
  <div class="col-span-full mt-1 flex gap-2">
    <Button main disabled={!!act.busy}>{date ? 'Save' : 'Add it'}</Button>
    <Button type="button" quiet onclick={onleave}>Cancel</Button>
  </div>
</form>
