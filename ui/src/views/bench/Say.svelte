<!-- What the bag does, as a sentence in which the strike and the measures are set, with what would help where it is wrong. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { shownAs } from '../../lib/bench/kinds.svelte'
  import { range, speed } from '../../lib/format'
  import { keysOf } from '../../lib/say/keys'
  import Part from '../../lib/say/Part.svelte'
  import { session } from '../../lib/session.svelte'
  import Choice from '../../lib/ui/Choice.svelte'
  import Field from '../../lib/ui/Field.svelte'
  import type { Desk } from './desk.svelte'
  import Measures from './Measures.svelte'

  type Phrase = Schemas['Phrase']
  let { desk, a }: { desk: Desk; a: Schemas['Sheet'] } = $props()
  const units = $derived(session.units)
  const speedBag = $derived(desk.kind === 'speed')
  const slipBag = $derived(desk.kind === 'slip')
  const behind = $derived(a.tempos.find((t) => t.rebounds === desk.rebounds)?.face === 'behind')
  const counts = $derived(
    speedBag ? 'Rebounds to the next strike' : slipBag ? 'Slip every … pass' : 'Strike every … return',
  )
  const parity = $derived(
    behind ? 'An even count brings the bag to a hand behind it.' : 'An odd count brings the bag back to the front.',
  )
  const force = $derived(
    slipBag
      ? { label: 'Drawn back', min: 0.05, step: 0.01, ...shownAs('height', units) }
      : { label: 'Speed of the bag after the strike', min: 0.1, step: 0.05, ...shownAs('speed', units), digits: 2 },
  )
  const tempo = $derived(desk.wanted.tempo ?? a.tempo)
  const launch = $derived(desk.wanted.launch ?? a.launch ?? a.drawn)
  const labels: Record<string, string> = {
    tempo: 'Tempo',
    angle: 'Strike angle',
    measures: 'Measures',
    around: 'Place and use',
  }
  const labelOf = (p: Phrase) =>
    p.part === 'count' ? counts : p.part === 'force' ? force.label : (labels[p.part] ?? '')
  // On a slow line the figure changes at once.
  const textOf = (p: Phrase) =>
    desk.whatIf.pending && p.part === 'tempo' && desk.wanted.tempo ? `${Math.round(tempo)} a minute` : p.text
  const keys = $derived(keysOf(a.said.map((p) => p.part)))
  let told = $state('')

  function step(p: Phrase, by: number) {
    const grid = (v: number, of: number) => Math.round((Math.round(v / of) + by) * of * 1e4) / 1e4
    if (p.part === 'tempo') desk.wanted = { tempo: Math.min(700, Math.max(5, grid(tempo, 1))) }
    else if (p.part === 'count') desk.rebounds = Math.min(5, Math.max(1, desk.rebounds + Math.sign(by)))
    else if (p.part === 'force')
      desk.wanted = { launch: Math.min(Math.max(0.5, a.most), Math.max(force.min, grid(launch, force.step))) }
    else if (p.part === 'angle') desk.strikeAngle = Math.min(60, Math.max(5, grid(desk.strikeAngle, 1)))
    told = `${labelOf(p)} ${{ tempo: Math.round(desk.wanted.tempo ?? tempo), count: desk.rebounds, force: desk.wanted.launch ?? launch, angle: desk.strikeAngle }[p.part as 'tempo'] ?? ''}`
  }
  function take(p: Phrase) {
    if (p.set.length > 0) desk.set(p.set)
    if (p.ask?.rebounds) desk.rebounds = p.ask.rebounds
    if (p.ask?.tempo) desk.wanted = { tempo: p.ask.tempo }
    if (p.ask?.launch) desk.wanted = { launch: p.ask.launch }
  }
  const steps = (p: Phrase) => (p.part === 'measures' || p.part === 'around' ? undefined : (by: number) => step(p, by))
</script>

<div
  class="text-[1.2rem] leading-8 text-pretty max-sm:text-lg max-sm:leading-[2.9rem]"
  role="group"
  aria-label="How it hangs and is struck"
  aria-busy={desk.whatIf.pending}>
  {#each a.said as p, i (keys[i])}
    {#if p.part === 'remedy'}
      <button type="button" class="part remedy" onclick={() => take(p)}>{p.text}</button>
    {:else if p.part !== ''}
      <Part
        text={textOf(p)}
        label={labelOf(p)}
        figure={p.part === 'tempo' || p.part === 'force' || p.part === 'angle'}
        onstep={steps(p)}>
        {#if p.part === 'tempo'}
          <Field
            label="Tempo"
            value={tempo}
            min={5}
            max={700}
            step={1}
            unit="a minute"
            onchange={(to) => (desk.wanted = { tempo: to })}
            problem={desk.refused('tempo')}
            note={`Within reach with this count: ${range(a.slowest, a.fastest)}.`} />
        {:else if p.part === 'count'}
          <Choice
            label={counts}
            value={desk.rebounds}
            options={[1, 2, 3, 4, 5].map((n) => ({ value: n, text: String(n) }))}
            onchange={(n) => (desk.rebounds = n)}
            note={speedBag ? parity : ''} />
        {:else if p.part === 'force'}
          <Field
            {...force}
            value={launch}
            max={Math.max(0.5, a.most)}
            problem={desk.refused('launch') || desk.refused('pull')}
            onchange={(to) => (desk.wanted = { launch: to })}
            note={speedBag ? `Softer than ${speed(a.least, session.units)} it does not reach the board.` : ''} />
        {:else if p.part === 'angle'}
          <Field
            label="Strike angle"
            value={desk.strikeAngle}
            min={5}
            max={60}
            step={1}
            unit="°"
            problem={desk.refused('strikeAngle')}
            onchange={(v) => (desk.strikeAngle = v)}
            note="On the far side, before it hangs straight. 25° is assumed." />
        {:else}
          <Measures {desk} which={p.part === 'around' ? 'around' : 'measures'} />
        {/if}
      </Part>
    {:else if p.wrong}
      <strong class="text-strike">{p.text}</strong>
    {:else}
      {p.text}
    {/if}
  {/each}
</div>
<p class="sr-only" aria-live="polite">{told}</p>
