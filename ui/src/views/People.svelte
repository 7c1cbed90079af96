<!-- Serves the coach at the desk: who trains here. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { toast } from 'svelte-sonner'
  import { api, ask, type Schemas } from '../lib/api/client'
  import { bands, length } from '../lib/format'
  import { session } from '../lib/session.svelte'
  import Choice from '../lib/ui/Choice.svelte'
  import Notice from '../lib/ui/Notice.svelte'

  const client = useQueryClient()
  const people = createQuery(() => ({ queryKey: ['trainees'], queryFn: () => ask(api.GET('/api/trainees')) }))
  const blank = { id: '', name: '', stance: 'orthodox', band: 'beginner', ageBand: 'adult' } as Schemas['Trainee']
  let edited = $state<Schemas['Trainee'] | null>(null)
  let problem = $state('')
  const unit = $derived(session.units === 'imperial' ? { name: 'inches', factor: 1 / 0.0254, digits: 1 } : { name: 'centimetres', factor: 100, digits: 0 })

  const measures = [
    { field: 'height', name: 'Height', low: 0.8, high: 2.4 },
    { field: 'reach', name: 'Reach, fingertip to fingertip', low: 0.6, high: 2.6 },
    { field: 'eye', name: 'Eyes above the floor, in stance', low: 0.5, high: 2.3 },
    { field: 'mouth', name: 'Mouth, in stance', low: 0.5, high: 2.3 },
    { field: 'chin', name: 'Chin, in stance', low: 0.5, high: 2.3 },
  ] as const

  async function save(e: SubmitEvent) {
    e.preventDefault()
    if (!edited) return
    const body = { ...edited }
    try {
      if (body.id) await ask(api.PUT('/api/trainees/{id}', { params: { path: { id: body.id } }, body }))
      else await ask(api.POST('/api/trainees', { body }))
      toast(`${body.name} is saved.`)
      edited = null
      problem = ''
      await client.invalidateQueries()
    } catch (cause) {
      problem = `${(cause as Error).message} Nothing was saved.`
    }
  }
</script>

<svelte:head><title>People · Melodromos</title></svelte:head>
<div class="flex flex-wrap items-end justify-between gap-4">
  <h1 class="text-3xl font-extrabold">People</h1>
  <button class="button main" onclick={() => (edited = { ...blank })}>Add a person</button>
</div>
{#if edited}
  <form class="seam mt-6 grid gap-x-10 gap-y-2 pt-4 md:grid-cols-2" onsubmit={save}>
    <!-- svelte-ignore a11y_autofocus -->
    <label class="block"><span class="label">Name</span><input class="input mt-1" required maxlength="120" autofocus bind:value={edited.name} /></label>
    <Choice label="Stance" value={edited.stance} options={[{ value: 'orthodox', text: 'Orthodox (left hand leads)' }, { value: 'southpaw', text: 'Southpaw (right hand leads)' }]} onchange={(v) => edited && (edited.stance = v)} />
    <Choice label="Skill to begin with" value={edited.band} options={Object.entries(bands).map(([value, text]) => ({ value: value as Schemas['Trainee']['band'], text }))} onchange={(v) => edited && (edited.band = v)} />
    <Choice label="Age" value={edited.ageBand ?? 'adult'} options={[{ value: 'child', text: 'Child' }, { value: 'youth', text: 'Youth' }, { value: 'adult', text: 'Adult' }, { value: 'senior', text: 'Senior' }]} onchange={(v) => edited && (edited.ageBand = v)} />
    {#each measures as m (m.field)}
      <label class="block"><span class="label">{m.name} in {unit.name}, where measured</span>
        <input class="input mt-1" type="number" step="any" min={(m.low * unit.factor).toFixed(0)} max={(m.high * unit.factor).toFixed(0)} value={edited[m.field] ? (edited[m.field]! * unit.factor).toFixed(unit.digits) : ''}
          onchange={(e) => edited && (edited[m.field] = e.currentTarget.value === '' ? undefined : Number(e.currentTarget.value) / unit.factor)} /></label>
    {/each}
    <label class="block md:col-span-2"><span class="label">Notes</span><input class="input mt-1" maxlength="4000" bind:value={edited.notes} /></label>
    {#if problem}<p class="font-semibold md:col-span-2" role="alert">{problem}</p>{/if}
    <div class="flex gap-2 pt-2"><button class="button main">Save</button><button type="button" class="button" onclick={() => { edited = null; problem = '' }}>Leave it</button></div>
  </form>
{/if}
{#if people.isError}
  <Notice title="The people could not be read" text={people.error.message} again={() => people.refetch()} />
{:else if people.data?.length === 0 && !edited}
  <Notice title="Nobody yet." text="Add somebody who trains here; a name and a stance will do." />
{:else}
  <ul class="seam mt-6">
    {#each people.data ?? [] as t (t.id)}
      <li class="grid grid-cols-[1fr_auto] items-center gap-3 border-b border-rope py-3">
        <div>
          <p class="font-bold">{t.name}</p>
          <p class="text-sm text-soft">
            {t.stance === 'southpaw' ? 'Southpaw' : 'Orthodox'}, {bands[t.band]?.toLowerCase()}{t.ageBand !== 'adult' ? `, ${t.ageBand}` : ''}{t.height ? `, ${length(t.height, session.units)} tall` : ''}{t.notes ? `. ${t.notes}` : ''}
          </p>
        </div>
        <span class="flex gap-2">
          <a class="button max-sm:!hidden" href="#/drills/new?trainee={t.id}">Give a drill</a>
          <button class="button" onclick={() => (edited = { ...t })}>Change</button>
        </span>
      </li>
    {/each}
  </ul>
{/if}
