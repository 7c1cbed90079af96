<!-- What a technique comes to at its tempo: the sentence, the swing, the figures, the pattern, level and fit. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { count, duration, ms, speed } from '../../lib/format'
  import { session } from '../../lib/session.svelte'
  import { sample } from '../../lib/trace/geometry'
  import { handLetter, handWord } from '../../lib/trace/hands'
  import SwingTrace from '../../lib/trace/SwingTrace.svelte'
  import Sentence from '../../lib/say/Sentence.svelte'
  import Cards from '../../lib/ui/Cards.svelte'
  import FigureRow from '../../lib/ui/FigureRow.svelte'
  import Fit from '../../lib/ui/Fit.svelte'
  import type { Sheet } from './sheet.svelte'

  type Props = { sheet: Sheet; p: Schemas['Answer']; stance: string; name: string; people: Schemas['Trainee'][] }
  let { sheet, p, stance, name, people }: Props = $props()
  const figures = $derived([
    { name: 'Strikes', text: String(p.strikes) },
    { name: 'Round length', text: duration(p.seconds) },
    { name: 'Window', text: p.window ? ms(p.window) : '–' },
    { name: `Fist speed, ${p.effort}`, text: p.fist ? speed(p.fist, session.units) : '–' },
  ])
  const pattern = $derived(
    [
      `Pattern of ${count(p.pattern.length, 'strike')}`,
      ...(p.pattern.some((b) => b.face === 'behind') ? ['open discs: from behind'] : []),
      ...(p.pattern.some((b) => b.pin) ? ['ringed: the trap'] : []),
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
</script>

<div data-instrument>
  <div class="mt-2 bg-sheet py-1 {sheet.whatIf.pending ? 'opacity-70' : ''}" aria-busy={sheet.whatIf.pending}>
    <SwingTrace
      cycle={p.cycle}
      strikes={sample(p.cycle, p.pattern)}
      tempo={p.shown}
      {stance}
      from={-0.22}
      to={Math.max(0.75, p.cycle.return + 0.22)}
      height={260} />
  </div>
  <div class="mt-2">
    <Sentence
      label="The drill"
      said={p.said}
      knobs={p.knobs}
      pending={sheet.whatIf.pending}
      refused={sheet.refusedOf}
      written={(k, text, value) => (k.field === 'firstHand' ? `${text} (${handWord(value, stance)})` : text)}
      onpatch={sheet.set} />
  </div>
</div>
<div class="seam mt-3 grid content-start items-start gap-x-8 gap-y-4 pt-3 lg:min-h-48 lg:grid-cols-[1fr_20rem]">
  <Fit
    question={p.problem ? null : sheet.question}
    name={name.split(' ')[0] || 'a beginner'}
    {people}
    ontake={(next) => sheet.renew(next)} />
  {#if !p.problem}
    <div class="text-sm lg:col-start-2 lg:row-start-1">
      <FigureRow {figures} class="grid-cols-2 gap-x-6 gap-y-2" />
      <h2 class="label mt-3">{pattern}</h2>
      <ol class="mt-1 flex flex-wrap gap-1">
        {#each p.pattern as beat, i (i)}
          <li class="grid size-7 place-items-center text-sm rounded-full font-bold {look(beat)}">
            <span aria-hidden="true">{handLetter(beat.hand, stance)}</span><span class="sr-only">{spoken(beat)}</span>
          </li>
        {/each}
      </ol>
    </div>
  {/if}
</div>
<Cards cards={p.cards} />
