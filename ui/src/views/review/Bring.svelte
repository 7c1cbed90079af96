<!-- A table of times brought in as the hits of a round that recorded none: first what it holds, then the bringing in. -->
<script lang="ts">
  import { api, ask, type Schemas } from '../../lib/api/client'
  import Button from '../../lib/ui/Button.svelte'
  import Choice from '../../lib/ui/Choice.svelte'
  import Problem from '../../lib/ui/Problem.svelte'

  let { id, onbrought }: { id: string; onbrought: () => void } = $props()
  let table = $state('')
  let zero = $state<'bell' | 'first'>('bell')
  let found = $state.raw<Schemas['TimesIn'] | null>(null)
  let problem = $state('')
  let busy = $state(false)

  async function send(dry: boolean) {
    busy = true
    problem = ''
    try {
      const answer = await ask(
        api.POST('/api/runs/{id}/times', { params: { path: { id } }, body: { table, zero, dry } }),
      )
      if (dry) found = answer
      else onbrought()
    } catch (e) {
      found = null
      problem = `${e instanceof Error ? e.message : String(e)} Nothing was brought in.`
    } finally {
      busy = false
    }
  }
  async function read(e: Event & { currentTarget: HTMLInputElement }) {
    const file = e.currentTarget.files?.[0]
    if (!file) return
    table = await file.text()
    void send(true)
  }
</script>

<details class="mt-4">
  <summary class="cursor-pointer font-semibold">Bring in a table of times</summary>
  <p class="mt-1 max-w-prose text-soft">
    A file of comma-separated values, a line for each hit: its time in seconds, and where it is known the hand (lead or
    rear) and the launch in m/s, in columns called time, hand and launch.
  </p>
  <div class="mt-2 flex flex-wrap items-end gap-x-4 gap-y-2">
    <label
      ><span class="label">File</span>
      <input class="input mt-1" type="file" accept=".csv,.txt,text/csv,text/plain" onchange={read} /></label>
    <Choice
      label="Second 0 is"
      value={zero}
      options={[
        { value: 'bell', text: 'The bell' },
        { value: 'first', text: 'Somewhere: the first hit is the first strike' },
      ]}
      onchange={(v) => {
        zero = v
        if (table) void send(true)
      }} />
  </div>
  <label class="mt-2 block max-w-prose"
    ><span class="label">Or paste it</span>
    <textarea class="input mt-1 font-mono" rows="4" bind:value={table} oninput={() => (found = null)}></textarea
    ></label>
  <Problem text={problem} />
  {#if found}
    <p class="mt-2" role="status">
      {found.said}
      {found.hands ? 'It tells the hands.' : 'It tells no hands.'}
      {found.force ? 'It tells how hard.' : 'It does not tell how hard.'}
    </p>
  {/if}
  <div class="mt-2 flex gap-2">
    <Button disabled={busy || !table.trim()} onclick={() => send(true)}>Look at it</Button>
    <Button main disabled={busy || !found} onclick={() => send(false)}>Bring it in</Button>
  </div>
</details>
