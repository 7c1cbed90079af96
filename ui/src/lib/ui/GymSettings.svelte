<!-- What holds for the whole gym: its units, how it calls, its gate, and where it draws the borders between slack and tight. -->
<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { Dialog } from 'bits-ui'
  import { Act } from '../act.svelte'
  import { api, ask, type Schemas } from '../api/client'
  import { session } from '../session.svelte'
  import Button from './Button.svelte'
  import Choice from './Choice.svelte'
  import Figures from './Figures.svelte'
  import Over from './Over.svelte'
  import Problem from './Problem.svelte'

  let { open = $bindable(false) }: { open: boolean } = $props()
  const act = new Act(useQueryClient())
  let gym = $state<Schemas['GymSettings'] | null>(null)
  let unread = $state('')

  $effect(() => {
    if (!open) return
    act.problem = unread = ''
    ask(api.GET('/api/gym')).then(
      (g) => (gym = g),
      (e: Error) => (unread = e.message),
    )
  })

  async function save(e: SubmitEvent) {
    e.preventDefault()
    const body = $state.snapshot(gym) as Schemas['GymSettings']
    const work = async () => {
      gym = await ask(api.PUT('/api/gym', { body }))
      await session.load()
      return gym
    }
    if (await act.do('save', work, { said: 'The gym is saved.', unchanged: 'Nothing was saved.' })) open = false
  }
  const gate = [
    { field: 'clean', name: 'Clean, %', step: 1, factor: 100 },
    { field: 'run', name: 'In a row', step: 1, factor: 1 },
    { field: 'rounds', name: 'Rounds', step: 1, factor: 1 },
    { field: 'days', name: 'On days', step: 1, factor: 1 },
    { field: 'aDay', name: 'Rungs a day', step: 1, factor: 1 },
  ]
  const seconds = { step: 0.01, factor: 1 }
  const borders = [
    { field: 'slack', name: 'Too slack above, s', ...seconds },
    { field: 'head', name: 'Head movement above, s', ...seconds },
    { field: 'tight', name: 'Too tight below, s', ...seconds },
  ]
</script>

<Over bind:open title={session.me?.gym ?? ''}>
  {#if gym}
    <form class="mt-3" onsubmit={save}>
      <Choice
        label="Units"
        value={gym.units}
        options={[
          { value: 'metric', text: 'Metric' },
          { value: 'imperial', text: 'Imperial' },
        ]}
        onchange={(units) => gym && (gym.units = units)} />
      <Choice
        label="Kicks, knees and elbows"
        value={gym.kicks ? 'yes' : 'no'}
        options={[
          { value: 'no', text: 'Not trained here' },
          { value: 'yes', text: 'Trained here' },
        ]}
        onchange={(v) => gym && (gym.kicks = v === 'yes')} />
      <div class="flex flex-wrap gap-x-6">
        <Choice
          label="Punches are called by"
          value={gym.punches}
          options={[
            { value: 'numbers', text: 'Numbers' },
            { value: 'names', text: 'Names' },
          ]}
          onchange={(v) => gym && (gym.punches = v)} />
        <Choice
          label="Slips by"
          value={gym.slips}
          options={[
            { value: 'sides', text: 'Lead and rear' },
            { value: 'inside', text: 'Inside and outside' },
          ]}
          onchange={(v) => gym && (gym.slips = v)} />
      </div>
      <Figures
        label="Before a round"
        of={gym}
        fields={[{ field: 'getReady', name: 'Get ready, s', step: 1, factor: 1 }]} />
      <Figures label="The gate of a rung, before the next" of={gym.gate} fields={gate} />
      <Figures
        label="Cords of a double-end bag, by the return of a half-power strike"
        of={gym.borders}
        fields={borders} />
      <p class="mt-1 text-sm text-soft">
        0.45, 0.32 and 0.17 s are assumed; between 0.17 and 0.32 s the cords suit combinations.
      </p>
      <Problem text={act.problem} />
      <div class="mt-4 flex gap-2">
        <Button main>Save the gym</Button>
        <Dialog.Close class="button" type="button">Leave it</Dialog.Close>
      </div>
    </form>
  {:else}
    <p class="mt-3">{unread || 'Reading…'}</p>
  {/if}
</Over>
