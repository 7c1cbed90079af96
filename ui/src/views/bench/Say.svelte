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
      ? { label: 'Drawn back', ...shownAs('height', units) }
      : { label: 'Speed of the bag after the strike', ...shownAs('speed', units), digits: 2 },
  )
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
    desk.whatIf.pending && p.part === 'tempo' && desk.wanted.tempo
      ? `${Math.round(desk.wanted.tempo)} a minute`
      : p.text
  const keys = $derived(keysOf(a.said.map((p) => p.part)))
  const limits = (p: Phrase) => ({ min: p.range!.min, max: p.range!.max, step: p.range!.by })
  let told = $state('')

  /** A figure as it was last set, which the answer may not have heard of. */
  const at = (p: Phrase) =>
    ({
      tempo: desk.wanted.tempo,
      count: desk.rebounds,
      force: desk.wanted.launch,
      angle: desk.strikeAngle,
    })[p.part as 'tempo'] ?? p.range!.at
  function put(p: Phrase, to: number) {
    if (p.part === 'tempo') desk.wanted = { tempo: to }
    else if (p.part === 'count') desk.rebounds = to
    else if (p.part === 'force') desk.wanted = { launch: to }
    else desk.strikeAngle = to
  }
  function step(p: Phrase, by: number) {
    const r = p.range!
    const grid = Math.round((Math.round(at(p) / r.by) + (p.part === 'count' ? Math.sign(by) : by)) * r.by * 1e4) / 1e4
    put(p, Math.min(r.max, Math.max(r.min, grid)))
    told = `${labelOf(p)} ${p.part === 'tempo' ? Math.round(at(p)) : at(p)}`
  }
  function take(p: Phrase) {
    if (p.set.length > 0) desk.set(p.set)
    if (p.ask?.rebounds) desk.rebounds = p.ask.rebounds
    if (p.ask?.tempo) desk.wanted = { tempo: p.ask.tempo }
    if (p.ask?.launch) desk.wanted = { launch: p.ask.launch }
  }
  const steps = (p: Phrase) => (p.range ? (by: number) => step(p, by) : undefined)
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
            value={at(p)}
            {...limits(p)}
            unit="a minute"
            onchange={(to) => put(p, to)}
            problem={desk.refused('tempo')}
            note={`Within reach with this count: ${range(a.slowest, a.fastest)}.`} />
        {:else if p.part === 'count'}
          <Choice
            label={counts}
            value={desk.rebounds}
            options={Array.from({ length: p.range!.max }, (_, i) => ({ value: i + 1, text: String(i + 1) }))}
            onchange={(n) => (desk.rebounds = n)}
            note={speedBag ? parity : ''} />
        {:else if p.part === 'force'}
          <Field
            {...force}
            {...limits(p)}
            value={at(p)}
            problem={desk.refused('launch') || desk.refused('pull')}
            onchange={(to) => put(p, to)}
            note={speedBag ? `Softer than ${speed(a.least, session.units)} it does not reach the board.` : ''} />
        {:else if p.part === 'angle'}
          <Field
            label="Strike angle"
            value={desk.strikeAngle}
            {...limits(p)}
            unit="°"
            problem={desk.refused('strikeAngle')}
            onchange={(v) => put(p, v)}
            note="On the far side, before it hangs straight. 25° is our guess." />
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
