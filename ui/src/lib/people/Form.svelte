<!-- Who somebody is: name, stance, skill to begin with, measures, schools, weeks. -->
<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { toast } from 'svelte-sonner'
  import { api, ask, type Schemas } from '../api/client'
  import { bands, dayIn, dayNames } from '../format'
  import { session } from '../session.svelte'
  import Choice from '../ui/Choice.svelte'

  type Person = Schemas['Trainee']
  type Props = { person?: Person; whole?: boolean; onsaved: (person: Person) => void; onleave: () => void }
  let { person, whole = false, onsaved, onleave }: Props = $props()

  const client = useQueryClient()
  // svelte-ignore state_referenced_locally -- a form begins with what there is
  let edited = $state<Person>(
    person ? $state.snapshot(person) : { id: '', name: '', stance: 'orthodox', band: 'beginner', ageBand: 'adult' },
  )
  let problem = $state('')
  const unit = $derived(
    session.units === 'imperial'
      ? { name: 'inches', factor: 1 / 0.0254, digits: 1 }
      : { name: 'centimetres', factor: 100, digits: 0 },
  )
  const measures = [
    { field: 'height', name: 'Height', low: 0.8, high: 2.4 },
    { field: 'reach', name: 'Reach, fingertip to fingertip', low: 0.6, high: 2.6 },
    { field: 'eye', name: 'Eyes above the floor, in stance', low: 0.5, high: 2.3 },
    { field: 'mouth', name: 'Mouth, in stance', low: 0.5, high: 2.3 },
    { field: 'chin', name: 'Chin, in stance', low: 0.5, high: 2.3 },
  ] as const
  const today = dayIn(session.zone)
  const toggle = (d: number) => {
    if (!edited.weeks) return
    const days = edited.weeks.days.includes(d)
      ? edited.weeks.days.filter((x) => x !== d)
      : [...edited.weeks.days, d].toSorted((a, b) => ((a + 6) % 7) - ((b + 6) % 7))
    if (days.length > 0) edited.weeks.days = days
  }

  async function save(e: SubmitEvent) {
    e.preventDefault()
    const body = $state.snapshot(edited) as Person
    try {
      const kept = body.id
        ? await ask(api.PUT('/api/trainees/{id}', { params: { path: { id: body.id } }, body }))
        : await ask(api.POST('/api/trainees', { body }))
      await client.invalidateQueries()
      toast(`${kept.name} is saved.`)
      onsaved(kept)
    } catch (cause) {
      problem = `${(cause as Error).message} Nothing was saved.`
    }
  }
</script>

<form class="seam mt-6 grid gap-x-10 gap-y-2 pt-4 md:grid-cols-2" onsubmit={save}>
  <!-- svelte-ignore a11y_autofocus -->
  <label class="block"
    ><span class="label">Name</span><input
      class="input mt-1"
      required
      maxlength="120"
      autofocus={!person}
      bind:value={edited.name} /></label>
  <Choice
    label="Stance"
    value={edited.stance}
    options={[
      { value: 'orthodox', text: 'Orthodox (left hand leads)' },
      { value: 'southpaw', text: 'Southpaw (right hand leads)' },
    ]}
    onchange={(v) => (edited.stance = v)} />
  <Choice
    label="Skill to begin with"
    value={edited.band}
    options={Object.entries(bands).map(([value, text]) => ({ value: value as Person['band'], text }))}
    onchange={(v) => (edited.band = v)}
    note={whole ? 'Assumed figures start from it; tests and rounds replace them.' : ''} />
  <Choice
    label="Age"
    value={edited.ageBand ?? 'adult'}
    options={[
      { value: 'child', text: 'Child' },
      { value: 'youth', text: 'Youth' },
      { value: 'adult', text: 'Adult' },
      { value: 'senior', text: 'Senior' },
    ]}
    onchange={(v) => (edited.ageBand = v)} />
  {#if whole}
    <Choice
      label="Dominant hand"
      value={edited.dominant || 'stance'}
      options={[
        { value: 'stance', text: 'By the stance' },
        { value: 'left', text: 'Left' },
        { value: 'right', text: 'Right' },
      ]}
      onchange={(v) => (edited.dominant = v === 'stance' ? '' : v)} />
    <Choice
      label="Weaker side"
      value={edited.weak || 'none'}
      options={[
        { value: 'none', text: 'Neither' },
        { value: 'lead', text: 'Lead' },
        { value: 'rear', text: 'Rear' },
      ]}
      onchange={(v) => (edited.weak = v === 'none' ? '' : v)}
      note="Its hands are reckoned a tenth slower (assumed)." />
    <Choice
      label="Sport"
      value={edited.sport || 'boxing'}
      options={[
        { value: 'boxing', text: 'Boxing' },
        { value: 'kicking', text: 'With kicks' },
      ]}
      onchange={(v) => (edited.sport = v)} />
    <Choice
      label="First on the speed bag"
      value={edited.school || 'basic'}
      options={[
        { value: 'basic', text: 'Basic rhythm' },
        { value: 'fistRoll', text: 'Fist roll' },
      ]}
      onchange={(v) => (edited.school = v === 'basic' ? '' : v)}
      note="Two schools: the rhythm first, or the roll, because it is easier when done exactly." />
  {/if}
  {#each measures as m (m.field)}
    <label class="block"
      ><span class="label">{m.name} in {unit.name}, where measured</span>
      <input
        class="input mt-1"
        type="number"
        step="any"
        min={(m.low * unit.factor).toFixed(0)}
        max={(m.high * unit.factor).toFixed(0)}
        value={edited[m.field] ? (edited[m.field]! * unit.factor).toFixed(unit.digits) : ''}
        onchange={(e) =>
          (edited[m.field] =
            e.currentTarget.value === '' ? undefined : Number(e.currentTarget.value) / unit.factor)} /></label>
  {/each}
  {#if whole}
    <label class="block"
      ><span class="label">Goals</span><input class="input mt-1" maxlength="4000" bind:value={edited.goals} /></label>
    <div class="md:col-span-2">
      <Choice
        label="Weeks"
        value={edited.weeks ? 'planned' : 'open'}
        options={[
          { value: 'open', text: 'As they come' },
          { value: 'planned', text: 'Planned' },
        ]}
        onchange={(v) =>
          (edited.weeks = v === 'planned' ? { from: today, days: [2, 4], rounds: 4, most: 8 } : undefined)}
        note="A round more each week in which they came, every fourth week light." />
      {#if edited.weeks}
        <div class="flex flex-wrap items-end gap-x-6 gap-y-2 pt-1">
          <label class="block"
            ><span class="label">From</span><input
              class="input mt-1"
              type="date"
              required
              bind:value={edited.weeks.from} /></label>
          <div role="group" aria-label="Days">
            <p class="label mb-1">Days</p>
            <div class="flex gap-1">
              {#each [1, 2, 3, 4, 5, 6, 0] as d (d)}<button
                  type="button"
                  class="button !min-h-10 !px-2.5 {edited.weeks.days.includes(d) ? 'main' : ''}"
                  aria-pressed={edited.weeks.days.includes(d)}
                  onclick={() => toggle(d)}>{dayNames[d]}</button
                >{/each}
            </div>
          </div>
          <label class="block"
            ><span class="label">Rounds at first</span><input
              class="input mt-1 !w-24"
              type="number"
              min="1"
              max="12"
              required
              bind:value={edited.weeks.rounds} /></label>
          <label class="block"
            ><span class="label">At the most</span><input
              class="input mt-1 !w-24"
              type="number"
              min="1"
              max="15"
              required
              bind:value={edited.weeks.most} /></label>
        </div>
      {/if}
    </div>
  {/if}
  <label class="block md:col-span-2"
    ><span class="label">Notes</span><input class="input mt-1" maxlength="4000" bind:value={edited.notes} /></label>
  {#if problem}<p class="border-l-4 border-ink pl-3 font-semibold md:col-span-2" role="alert">{problem}</p>{/if}
  <div class="flex gap-2 pt-2">
    <button class="button main">Save</button><button type="button" class="button" onclick={onleave}>Leave it</button>
  </div>
</form>
