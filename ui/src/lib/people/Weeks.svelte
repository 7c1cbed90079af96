<!-- How somebody's weeks build up, where they are planned. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { dayNames } from '../format'
  import Button from '../ui/Button.svelte'
  import Choice from '../ui/Choice.svelte'

  let { edited, beginning }: { edited: Schemas['Trainee']; beginning: Schemas['Beginning'] } = $props()
  const fromMonday = [1, 2, 3, 4, 5, 6, 0]

  function plan(planned: boolean) {
    if (planned) edited.weeks = { ...beginning.weeks, days: [...beginning.weeks.days] }
    else delete edited.weeks
  }
  function toggle(day: number) {
    const now = edited.weeks?.days ?? []
    const days = fromMonday.filter((d) => (d === day ? !now.includes(d) : now.includes(d)))
    if (edited.weeks && days.length > 0) edited.weeks.days = days
  }
</script>

<div class="md:col-span-2">
  <Choice
    label="Weeks"
    value={edited.weeks ? 'planned' : 'open'}
    options={[
      { value: 'open', text: 'As they come' },
      { value: 'planned', text: 'Planned' },
    ]}
    onchange={(v) => plan(v === 'planned')}
    note="One round more after each week they train; every fourth week is light." />
  {#if edited.weeks}
    {@const weeks = edited.weeks}
    <div class="flex flex-wrap items-end gap-x-6 gap-y-2 pt-1">
      <label class="block">
        <span class="label">From</span>
        <input class="input mt-1" type="date" required bind:value={weeks.from} />
      </label>
      <div role="group" aria-label="Days">
        <p class="label mb-1">Days</p>
        <div class="flex gap-1">
          {#each fromMonday as d (d)}
            <Button
              type="button"
              main={weeks.days.includes(d)}
              class="!min-h-10 !px-2.5"
              aria-pressed={weeks.days.includes(d)}
              onclick={() => toggle(d)}>{dayNames[d]}</Button>
          {/each}
        </div>
      </div>
      <label class="block">
        <span class="label">Rounds at first</span>
        <input
          class="input mt-1 !w-24"
          type="number"
          min="1"
          max={beginning.rounds.first}
          required
          bind:value={weeks.rounds} />
      </label>
      <label class="block">
        <span class="label">Rounds at most</span>
        <input
          class="input mt-1 !w-24"
          type="number"
          min="1"
          max={beginning.rounds.most}
          required
          bind:value={weeks.most} />
      </label>
    </div>
  {/if}
</div>
