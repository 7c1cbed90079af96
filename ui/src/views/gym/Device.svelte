<!-- What belongs to this device alone: how loud it is, how late it tells of a tap, whether single keys lead anywhere. -->
<script lang="ts">
  import { channels } from '../../lib/labels.gen'
  import { ms } from '../../lib/format'
  import { kept } from '../../lib/run/delay'
  import {
    loudness,
    loudnesses,
    mix,
    mixSteps,
    nearestStep,
    setLoudness,
    setMix,
    type Channel,
  } from '../../lib/run/loudness'
  import { shortcuts } from '../../lib/shortcuts.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Choice from '../../lib/ui/Choice.svelte'

  const late = kept()?.late
  let loud = $state(loudness())
  let mixed = $state.raw(mix())
</script>

<section class="seam pt-3" aria-labelledby="device">
  <h2 id="device" class="text-xl font-bold">This device</h2>
  <Choice
    label="Sound of a round"
    value={loud}
    options={loudnesses}
    onchange={(to) => {
      setLoudness(to)
      loud = to
    }}
    note="M turns it off and on during a round." />
  <details class="py-1">
    <summary class="cursor-pointer font-semibold">How loud each sort of sound is</summary>
    {#each Object.keys(channels) as Channel[] as name (name)}
      <Choice
        label={channels[name]}
        value={nearestStep(mixed[name])}
        options={mixSteps}
        onchange={(to) => {
          mixed = { ...mixed, [name]: to }
          setMix(mixed)
        }} />
    {/each}
  </details>
  <div class="flex flex-wrap items-center gap-x-3 py-1">
    <span
      >{late === undefined
        ? 'Delay of its taps: not measured.'
        : `It tells of a tap ${ms(late)} late, and that is taken off.`}</span>
    <Button small href="#/delay">{late === undefined ? 'Measure it' : 'Measure it again'}</Button>
  </div>
  <label class="flex min-h-11 items-center gap-3">
    <input
      type="checkbox"
      class="size-6 shrink-0 accent-ink"
      checked={shortcuts.on}
      onchange={() => shortcuts.toggle()} />
    <span>Keyboard shortcuts: single keys open pages and change drills</span>
  </label>
</section>
