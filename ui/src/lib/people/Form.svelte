<!-- Who somebody is: name, stance, skill to begin with, measures, schools, weeks. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { untrack } from 'svelte'
  import { api, ask, type Schemas } from '../api/client'
  import { asked } from '../address'
  import Standing from '../drafts/Standing.svelte'
  import { session } from '../session.svelte'
  import Button from '../ui/Button.svelte'
  import Choice from '../ui/Choice.svelte'
  import { takesFocus } from '../ui/focus'
  import Problem from '../ui/Problem.svelte'
  import { answer, answerTo, questions, rowsOf } from './asked'
  import Body from './Body.svelte'
  import { Entry } from './entry.svelte'
  import Weeks from './Weeks.svelte'

  type Person = Schemas['Trainee']
  type Props = { person?: Person; whole?: boolean; onsaved: (person: Person) => void; onleave: () => void }
  let { person, whole = false, onsaved, onleave }: Props = $props()

  const entry = new Entry(useQueryClient())
  const edited = $derived(entry.edited)
  const beginning = createQuery(() => ({
    queryKey: ['beginning'],
    queryFn: () => ask(api.GET('/api/beginning')),
    staleTime: Infinity,
  }))
  const begin = () =>
    entry.begin(person ? ($state.snapshot(person) as Person) : null, beginning.data!.newcomer, asked())
  $effect(() => {
    if (beginning.data && !edited) untrack(begin)
  })
  $effect(() => {
    void $state.snapshot(edited)
    untrack(() => entry.keepDraft())
  })

  async function save() {
    const kept = await entry.save()
    if (kept) onsaved(kept)
  }
  function leave() {
    entry.drop()
    onleave()
  }
</script>

{#if edited && beginning.data}
  <Standing
    since={entry.draft.since}
    mine={() => edited}
    theirs={entry.meanwhile.theirs}
    rows={(of) => rowsOf(of, beginning.data!.body, session.units)}
    ondrop={() => {
      entry.drop()
      begin()
    }}
    onmine={() => entry.keepMine() && void save()}
    ontheirs={() => entry.keepTheirs()} />
  <form
    class="seam mt-6 grid gap-x-10 gap-y-2 pt-4 md:grid-cols-2"
    onsubmit={(e) => {
      e.preventDefault()
      void save()
    }}>
    <label class="block">
      <span class="label">Name</span>
      <input class="input mt-1" required maxlength="120" bind:value={edited.name} {@attach takesFocus} />
    </label>
    {#each questions.filter((q) => whole || !q.later) as q (q.field)}
      <Choice
        label={q.label}
        value={answerTo(q, edited)}
        options={q.options}
        note={whole || q.later ? (q.note ?? '') : ''}
        onchange={(v) => answer(q, edited, v)} />
    {/each}
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
    <div class="md:col-span-2"><Problem text={entry.problem} /></div>
    <div class="flex gap-2 pt-2">
      <Button main>Save</Button>
      <Button type="button" onclick={leave}>Cancel</Button>
    </div>
  </form>
{/if}
