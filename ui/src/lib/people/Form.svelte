<!-- Who somebody is: name, stance, skill to begin with, measures, schools, weeks. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { Act } from '../act.svelte'
  import { api, ask, type Schemas } from '../api/client'
  import { bands } from '../format'
  import Button from '../ui/Button.svelte'
  import Choice from '../ui/Choice.svelte'
  import Problem from '../ui/Problem.svelte'
  import Body from './Body.svelte'
  import Weeks from './Weeks.svelte'

  type Person = Schemas['Trainee']
  type Props = { person?: Person; whole?: boolean; onsaved: (person: Person) => void; onleave: () => void }
  let { person, whole = false, onsaved, onleave }: Props = $props()

  const act = new Act(useQueryClient())
  const beginning = createQuery(() => ({
    queryKey: ['beginning'],
    queryFn: () => ask(api.GET('/api/beginning')),
    staleTime: Infinity,
  }))
  // svelte-ignore state_referenced_locally -- a form begins with what there is
  let edited = $state<Person | null>(person ? $state.snapshot(person) : null)
  $effect(() => {
    if (beginning.data && !edited) edited = { ...beginning.data.newcomer }
  })

  async function save(e: SubmitEvent) {
    e.preventDefault()
    const body = $state.snapshot(edited) as Person
    const work = () =>
      body.id
        ? ask(api.PUT('/api/trainees/{id}', { params: { path: { id: body.id } }, body }))
        : ask(api.POST('/api/trainees', { body }))
    const kept = await act.do('save', work, {
      said: ({ name }) => `${name} is saved.`,
      unchanged: 'Nothing was saved.',
    })
    if (kept) onsaved(kept)
  }
</script>

{#if edited && beginning.data}
  <form class="seam mt-6 grid gap-x-10 gap-y-2 pt-4 md:grid-cols-2" onsubmit={save}>
    <label class="block">
      <span class="label">Name</span>
      <!-- svelte-ignore a11y_autofocus -->
      <input class="input mt-1" required maxlength="120" autofocus={!person} bind:value={edited.name} />
    </label>
    <Choice
      label="Stance"
      value={edited.stance}
      options={[
        { value: 'orthodox', text: 'Orthodox (left hand leads)' },
        { value: 'southpaw', text: 'Southpaw (right hand leads)' },
      ]}
      onchange={(v) => (edited!.stance = v)} />
    <Choice
      label="Skill to begin with"
      value={edited.band}
      options={Object.entries(bands).map(([value, text]) => ({ value: value as Person['band'], text }))}
      onchange={(v) => (edited!.band = v)}
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
      onchange={(v) => (edited!.ageBand = v)} />
    {#if whole}
      <Choice
        label="Dominant hand"
        value={edited.dominant || 'stance'}
        options={[
          { value: 'stance', text: 'By the stance' },
          { value: 'left', text: 'Left' },
          { value: 'right', text: 'Right' },
        ]}
        onchange={(v) => (edited!.dominant = v === 'stance' ? '' : v)} />
      <Choice
        label="Weaker side"
        value={edited.weak || 'none'}
        options={[
          { value: 'none', text: 'Neither' },
          { value: 'lead', text: 'Lead' },
          { value: 'rear', text: 'Rear' },
        ]}
        onchange={(v) => (edited!.weak = v === 'none' ? '' : v)}
        note="Its hands are reckoned a tenth slower (assumed)." />
      <Choice
        label="Sport"
        value={edited.sport || 'boxing'}
        options={[
          { value: 'boxing', text: 'Boxing' },
          { value: 'kicking', text: 'With kicks' },
        ]}
        onchange={(v) => (edited!.sport = v)} />
      <Choice
        label="First on the speed bag"
        value={edited.school || 'basic'}
        options={[
          { value: 'basic', text: 'Basic rhythm' },
          { value: 'fistRoll', text: 'Fist roll' },
        ]}
        onchange={(v) => (edited!.school = v === 'basic' ? '' : v)}
        note="Two schools: the rhythm first, or the roll, because it is easier when done exactly." />
    {/if}
    <Body {edited} fields={beginning.data.body} />
    {#if whole}
      <label class="block">
        <span class="label">Goals</span>
        <input class="input mt-1" maxlength="4000" bind:value={edited.goals} />
      </label>
      <Weeks {edited} beginning={beginning.data} />
    {/if}
    <label class="block md:col-span-2">
      <span class="label">Notes</span>
      <input class="input mt-1" maxlength="4000" bind:value={edited.notes} />
    </label>
    <div class="md:col-span-2"><Problem text={act.problem} /></div>
    <div class="flex gap-2 pt-2">
      <Button main>Save</Button>
      <Button type="button" onclick={onleave}>Leave it</Button>
    </div>
  </form>
{/if}
