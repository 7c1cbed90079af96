<!-- What a technique comes to at its tempo: the sentence, the swing, the figures, the pattern, level and fit. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { count, duration, ms, speed } from '../../lib/format'
  import { session } from '../../lib/session.svelte'
  import { sample } from '../../lib/trace/geometry'
  import { handLetter, handWord } from '../../lib/trace/hands'
  import SwingTrace from '../../lib/trace/SwingTrace.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Cards from '../../lib/ui/Cards.svelte'
  import FigureRow from '../../lib/ui/FigureRow.svelte'
  import Fit from '../../lib/ui/Fit.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import type { Sheet } from './sheet.svelte'

  type Props = { sheet: Sheet; p: Schemas['Answer']; stance: string; name: string; people: Schemas['Trainee'][] }
  let { sheet, p, stance, name, people }: Props = $props()
  const figures = $derived([
    { name: 'Strikes', text: String(p.strikes) },
    { name: 'Bell to bell', text: duration(p.seconds) },
    { name: 'Window', text: p.window ? ms(p.window) : '–' },
    { name: `Fist speed, ${p.effort}`, text: p.fist ? speed(p.fist, session.units) : '–' },
  ])
  const pattern = $derived(
    [
      `One pattern, ${count(p.pattern.length, 'strike')}`,
      ...(p.pattern.some((b) => b.face === 'behind') ? ['open discs from behind'] : []),
      ...(p.pattern.some((b) => b.pin) ? ['in a ring, the trap'] : []),
    ].join('; '),
  )
  const look = (b: Schemas['Beat']) =>
    [
      b.face === 'behind' ? 'border-2 border-strike text-strike' : 'bg-strike text-sheet',
      b.pin ? 'outline-2 outline-offset-2 outline-strike' : '',
      b.hand === 'rear' ? 'mt-4' : 'mb-4',
    ].join(' ')
  const spoken = (b: Schemas['Beat']) =>
    `${handWord(b.hand, stance)}${b.face === 'behind' ? ', from behind' : ''}${b.pin ? ', trap' : ''}`
  const told = (c: Schemas['Change']) => (c.what === 'rebounds' ? `Count ${c.to}` : `Take ${c.to} a minute`)
</script>

<h1 class="min-h-[2.3em] text-3xl leading-tight font-extrabold tracking-tight" aria-live="polite">{p.sentence}</h1>
{#if p.change.length > 0}
  <div class="mt-2 flex flex-wrap gap-2">
    {#each p.change.filter((c) => c.what === 'rebounds' || c.what === 'tempo') as c (c.what)}
      <Button title={c.reason} onclick={() => sheet.set({ [c.what]: c.to })}>{told(c)}</Button>
    {/each}
  </div>
{:else}
  <Problem text={p.problem ?? ''} />
{/if}
<div class="mt-4 bg-sheet py-2">
  <SwingTrace
    cycle={p.cycle}
    strikes={sample(p.cycle, p.pattern)}
    tempo={p.shown}
    {stance}
    from={-0.22}
    to={Math.max(0.75, p.cycle.return + 0.22)}
    height={320} />
</div>
{#if !p.problem}
  <FigureRow {figures} class="mt-5 grid-cols-2 gap-x-8 gap-y-4 sm:grid-cols-4" />
  <h2 class="label mt-6">{pattern}</h2>
  <ol class="mt-1 flex flex-wrap gap-1.5">
    {#each p.pattern as beat, i (i)}
      <li class="grid size-9 place-items-center rounded-full font-bold {look(beat)}">
        <span aria-hidden="true">{handLetter(beat.hand, stance)}</span><span class="sr-only">{spoken(beat)}</span>
      </li>
    {/each}
  </ol>
  <Fit
    question={sheet.question}
    name={name.split(' ')[0] || 'a beginner'}
    {people}
    ontake={(next) => sheet.renew(next)} />
{/if}
<Cards cards={p.cards} />
