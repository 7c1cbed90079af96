<!-- What holds for the whole gym: its units, and where it draws the borders between slack and tight. -->
<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { Dialog } from 'bits-ui'
  import { toast } from 'svelte-sonner'
  import { api, ask, type Schemas } from '../api/client'
  import { session } from '../session.svelte'
  import Choice from './Choice.svelte'

  let { open = $bindable(false) }: { open: boolean } = $props()
  const client = useQueryClient()
  let gym = $state<Schemas['GymSettings'] | null>(null)
  let problem = $state('')

  $effect(() => {
    if (!open) return
    problem = ''
    ask(api.GET('/api/gym')).then(
      (g) => (gym = g),
      (e: Error) => (problem = e.message),
    )
  })

  async function save(e: SubmitEvent) {
    e.preventDefault()
    if (!gym) return
    try {
      gym = await ask(api.PUT('/api/gym', { body: $state.snapshot(gym) }))
      await session.load()
      await client.invalidateQueries()
      toast('The gym is saved.')
      open = false
    } catch (cause) {
      problem = `${(cause as Error).message} Nothing was saved.`
    }
  }
  const borders = [
    { field: 'slack', name: 'Too slack above' },
    { field: 'head', name: 'Head movement above' },
    { field: 'tight', name: 'Too tight below' },
  ] as const
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-ink/40" />
    <Dialog.Content
      class="fixed top-1/2 left-1/2 z-50 max-h-[92vh] w-[min(92vw,30rem)] -translate-1/2 overflow-y-auto border-2 border-ink bg-sheet p-6">
      <Dialog.Title class="text-xl font-bold">{session.me?.gym}</Dialog.Title>
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
          <p class="label mt-3">The gate of a rung, before the next</p>
          <div class="mt-1 grid grid-cols-3 gap-3 sm:grid-cols-5">
            <label class="block"
              ><span class="text-sm">Clean, %</span><input
                class="input mt-1"
                type="number"
                min="30"
                max="100"
                required
                value={Math.round(100 * gym.gate.clean)}
                onchange={(e) => gym && (gym.gate.clean = Number(e.currentTarget.value) / 100)} /></label>
            <label class="block"
              ><span class="text-sm">In a row</span><input
                class="input mt-1"
                type="number"
                min="1"
                max="200"
                required
                bind:value={gym.gate.run} /></label>
            <label class="block"
              ><span class="text-sm">Rounds</span><input
                class="input mt-1"
                type="number"
                min="1"
                max="10"
                required
                bind:value={gym.gate.rounds} /></label>
            <label class="block"
              ><span class="text-sm">On days</span><input
                class="input mt-1"
                type="number"
                min="1"
                max="10"
                required
                bind:value={gym.gate.days} /></label>
            <label class="block"
              ><span class="text-sm">Rungs a day</span><input
                class="input mt-1"
                type="number"
                min="1"
                max="10"
                required
                bind:value={gym.gate.aDay} /></label>
          </div>
          <p class="label mt-3">Cords of a double-end bag, by the return of a half-power strike</p>
          <div class="mt-1 grid grid-cols-3 gap-3">
            {#each borders as b (b.field)}
              <label class="block"
                ><span class="text-sm">{b.name}, s</span><input
                  class="input mt-1"
                  type="number"
                  step="0.01"
                  min="0.05"
                  max="3"
                  required
                  bind:value={gym.borders[b.field]} /></label>
            {/each}
          </div>
          <p class="mt-1 text-sm text-soft">
            0.45, 0.32 and 0.17 s are assumed; between 0.17 and 0.32 s the cords suit combinations.
          </p>
          {#if problem}<p class="mt-2 border-l-4 border-ink pl-3 font-semibold" role="alert">{problem}</p>{/if}
          <div class="mt-4 flex gap-2">
            <button class="button main">Save the gym</button><Dialog.Close class="button" type="button"
              >Leave it</Dialog.Close>
          </div>
        </form>
      {:else}<p class="mt-3">{problem || 'Reading…'}</p>{/if}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
