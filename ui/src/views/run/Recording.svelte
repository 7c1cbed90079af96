<!-- How the hits of a round are recorded, and whether it plays the beat or follows them. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { upper } from '../../lib/format'
  import { bands, playings } from '../../lib/labels.gen'
  import { kept } from '../../lib/run/delay'
  import type { Plays } from '../../lib/run/round.svelte'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Choice from '../../lib/ui/Choice.svelte'
  import type { Band, Floor, Source } from './floor.svelte'

  let { floor, preview, id }: { floor: Floor; preview: Schemas['Answer']; id: string } = $props()
  const notes = $derived<Record<Plays, string>>({
    beat:
      floor.source === 'none'
        ? 'The clock, the calls and the bag as planned. You may mark what you see.'
        : 'Plays the plan, whatever the hits do.',
    follow:
      floor.source === 'keys'
        ? 'The bag is on the screen: your taps strike it, miss it and find it again.'
        : 'The picture and the board sounds answer each hit.',
    startThenFollow: 'Plays the first strikes, then follows your hits.',
  })
  const recorders = $derived<{ value: Source; text: string }[]>([
    { value: 'keys', text: 'Taps' },
    { value: 'device', text: 'Bag sensor' },
    { value: 'none', text: 'Nothing' },
    ...(session.me?.demo ? [{ value: 'standin' as const, text: 'Demo hits' }] : []),
  ])
  const clock = $derived(preview.keptBy === 'bag' ? 'The bag sets the time' : 'The beat sets the time')
  const key = $derived(floor.round.run?.intakeKey)
  const delay = kept()
</script>

<div>
  <Choice
    label="Hits recorded by"
    value={floor.source}
    options={recorders}
    onchange={(source) => floor.record(source)} />
  {#if floor.source === 'keys'}
    <p class="mt-1 text-sm text-soft">
      The pads on the screen, or the keys F and J.
      {delay ? `This device is ${Math.round(1000 * delay.late)} ms late, which is taken off.` : ''}
      <a href="#/delay">{delay ? 'Measure it again' : 'Measure the delay of this device'}</a>
    </p>
  {:else if floor.source === 'standin'}
    <Choice
      label="They hit like"
      value={floor.ability}
      options={Object.entries(bands).map(([value, text]) => ({ value: value as Band, text }))}
      onchange={(v) => (floor.ability = v)}
      note="Simulated, for trying things out: these hits are nobody's." />
    <div class="flex flex-wrap items-end gap-x-4">
      <label class="py-1"
        ><span class="label">Their mistake</span>
        <select class="input mt-1" bind:value={floor.fault}>
          <option value="">None on purpose</option>
          {#each floor.ready?.outlook.mistakes ?? [] as m (m.code)}<option value={m.code}>{upper(m.name)}</option
            >{/each}
        </select></label>
      {#if floor.fault}
        <Choice
          label="So much of it"
          value={floor.times}
          options={[
            { value: 1, text: 'Hardly' },
            { value: 2, text: 'A little' },
            { value: 4, text: 'Badly' },
          ]}
          onchange={(v) => (floor.times = v)} />
      {/if}
    </div>
  {:else if floor.source === 'device'}
    {#if key}
      <p class="mt-1">
        Send hits to <code class="font-semibold break-all">{location.origin}/api/intake/{key}</code>
      </p>
    {:else}
      <Button class="mt-1" onclick={() => floor.round.prepare(id, 'device', floor.plays)}>
        Make a key for this round
      </Button>
    {/if}
    <p class="mt-1 text-sm text-soft">
      {key ? 'The key is for this round only. Connect the sensor, then start.' : ''} None at hand?
      <button class="min-h-6 underline" onclick={() => floor.record('none')}>Run with nothing recorded</button>
    </p>
  {/if}
  {#if floor.ways.length > 1}
    <Choice
      label={clock}
      value={floor.plays}
      options={floor.ways.map((value) => ({ value, text: playings[value] }))}
      onchange={(v) => (floor.chosen = v)}
      note={notes[floor.plays]} />
  {:else}
    <p class="label mt-2">{clock}</p>
    <p>{notes.beat}</p>
  {/if}
</div>
