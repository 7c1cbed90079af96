<!-- Before the round: who does what on which bag, what there is to beat, what speaks against it, and how it is recorded. -->
<script lang="ts">
  import { editorOf, isLine } from '../../lib/drills/doc'
  import { countdown, side, upper } from '../../lib/format'
  import { composedMoves, composedStrikes, sample } from '../../lib/trace/geometry'
  import SwingTrace from '../../lib/trace/SwingTrace.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Caution from '../../lib/ui/Caution.svelte'
  import Mark from '../../lib/ui/Mark.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import type { Floor, Ready } from './floor.svelte'
  import Recording from './Recording.svelte'

  let { floor, ready, id }: { floor: Floor; ready: Ready; id: string } = $props()
  const { drill, trainee, rig, preview, outlook } = $derived(ready)
  const composed = $derived(preview.composed)
  const begins = $derived.by(() => {
    if (!isLine(drill.doc)) return `First hand: ${drill.doc.firstHand}, the ${side(drill.doc.firstHand, floor.stance)}.`
    return composed ? `${composed.times} repetitions of ${composed.canonical}.` : ''
  })
  const cannot = $derived(!!preview.problem || outlook.barred || floor.round.phase === 'starting')
</script>

<div class="mx-auto flex w-full max-w-6xl flex-1 flex-col gap-5 overflow-y-auto p-5 sm:p-8">
  <header class="flex items-center gap-3">
    <Mark size={36} />
    <p class="text-soft">Ready for the floor</p>
    <Button class="ml-auto" href="#/">Leave</Button>
  </header>
  <div class="grid items-end gap-x-10 gap-y-3 lg:grid-cols-[1fr_auto]">
    <div>
      <h1 class="figure text-5xl sm:text-7xl">{trainee.name}</h1>
      <p class="mt-2 text-xl text-pretty">{drill.name} on the {rig.name}. {preview.sentence}</p>
      <p class="mt-1 text-soft">
        {preview.strikes} strikes, {countdown(preview.seconds)} from bell to bell. {begins}
      </p>
    </div>
    <dl class="flex flex-wrap gap-x-10 gap-y-2">
      <div>
        <dt class="label">Goal in a row{outlook.best > 0 ? `, best ${outlook.best}` : ''}</dt>
        <dd class="figure text-5xl">{outlook.target}</dd>
      </div>
      {#if outlook.clean > 0}
        <div>
          <dt class="label" title={outlook.made}>Meet the bag, expected</dt>
          <dd class="figure text-5xl">{Math.round(100 * outlook.clean)}<span class="text-2xl"> %</span></dd>
        </div>
      {/if}
    </dl>
  </div>
  {#if outlook.held}
    <p class="border-l-4 border-ink pl-3 text-lg font-semibold" role="alert">
      {outlook.barred ? `No round starts. ${upper(outlook.held)}` : `Held back: ${outlook.held}`}.
      <a href="#/people/{trainee.id}">To {trainee.name}</a>
    </p>
  {/if}
  {#if outlook.spared.length > 0}
    <p class="border-l-4 border-rope pl-3">As long as the caution stands: {outlook.spared.join('; ')}.</p>
  {/if}
  {#if preview.problem}
    <p class="border-l-4 border-ink pl-3 text-lg font-semibold" role="alert">
      {preview.problem} <a href="#{editorOf(drill.doc, drill.id)}">Change the drill</a>
    </p>
  {/if}
  <div class="bg-sheet py-2">
    <SwingTrace
      cycle={preview.cycle}
      strikes={composed ? composedStrikes(composed.moves) : sample(preview.cycle, preview.pattern)}
      moves={composed ? composedMoves(composed.moves) : []}
      tempo={preview.shown}
      from={-0.2}
      to={composed ? preview.cycle.return : preview.cycle.return * 2 + 0.2}
      height={270} />
  </div>
  <div class="grid gap-x-10 gap-y-3 md:grid-cols-[1fr_auto]">
    <Recording {floor} {preview} {id} />
    <div class="flex flex-col items-stretch gap-2 self-end md:row-span-2">
      <Button main class="min-h-16! px-12! text-2xl!" disabled={cannot} onclick={() => floor.start(id)}>Start</Button>
      <p class="text-center text-sm text-soft">or Space</p>
    </div>
  </div>
  <div class="max-w-prose"><Caution>{preview.before.join(' ')}</Caution></div>
  <Problem text={floor.round.problem} />
</div>
