<!-- Which bag, for whom, and keeping it. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { kindName, kinds } from '../../lib/bench/kinds.svelte'
  import { length } from '../../lib/format'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Choice from '../../lib/ui/Choice.svelte'
  import type { Desk } from './desk.svelte'

  type Props = { desk: Desk; people: Schemas['Trainee'][]; onsave: () => void }
  let { desk, people, onsave }: Props = $props()
  const known = $derived(people.some((t) => t.id === desk.traineeId))

  function hangFor(id: string) {
    desk.traineeId = id
    localStorage.setItem('bench-for', id)
  }
</script>

<div class="flex flex-wrap items-end gap-x-4 gap-y-2">
  <label class="block min-w-48 flex-1 sm:max-w-72">
    <span class="label">{desk.isNew ? 'Name of the bag' : kindName(desk.kind)}</span>
    <input
      class="input mt-1"
      aria-label="Name of the bag"
      maxlength="120"
      bind:value={desk.name}
      placeholder="What you call it" />
  </label>
  {#if people.length > 0}
    <label class="block min-w-48 flex-1 sm:max-w-72">
      <span class="label">Hung for</span>
      <select class="input mt-1" value={desk.traineeId} onchange={(e) => hangFor(e.currentTarget.value)}>
        {#each people as t (t.id)}
          <option value={t.id}
            >{t.name}{t.height ? `, ${length(t.height, session.units)}` : ', height not entered'}</option>
        {/each}
      </select>
    </label>
  {/if}
  <div class="ml-auto flex flex-wrap gap-2">
    {#if desk.saved && known}
      <Button class="max-sm:!hidden" href="#/cards/{desk.saved.id}/{desk.traineeId}">Setting card</Button>
    {/if}
    {#if !desk.isNew}
      <Button disabled={!desk.changed} onclick={() => desk.saved && desk.keep(desk.saved)}>Put back</Button>
    {/if}
    <Button main disabled={!desk.changed} onclick={onsave}>
      {desk.isNew ? 'Save this bag' : 'Save measures'}
    </Button>
  </div>
</div>
{#if desk.isNew}
  <Choice
    label="Kind"
    value={desk.kind}
    options={kinds.all.map((m) => ({ value: m.kind, text: kindName(m.kind) }))}
    onchange={(kind) => desk.begin(kind)} />
{/if}
