<!-- Before the round: who does what on which bag, what there is to beat, what speaks against it, and how it is recorded. -->
<script lang="ts">
  import Dial from '../../lib/dial/Dial.svelte'
  import { editorOf, isLine } from '../../lib/drills/doc'
  import Files from '../../lib/files/Files.svelte'
  import { givenFiles } from '../../lib/files/items'
  import { count, countdown, upper } from '../../lib/format'
  import { handWord } from '../../lib/trace/hands'
  import { composedMoves, composedStrikes, sample } from '../../lib/trace/geometry'
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
    if (!isLine(drill.doc)) return `${upper(handWord(drill.doc.firstHand, floor.stance))} hand first.`
    return composed ? `${count(composed.times, 'rep')} of ${composed.canonical}.` : ''
  })
  const planned = $derived(
    composed ? composedStrikes(composed.moves) : sample(preview.cycle, preview.pattern).filter((s) => s.i >= 0),
  )
  const moves = $derived(composed ? composedMoves(composed.moves) : [])
  const cannot = $derived(!!preview.problem || outlook.barred || floor.round.phase === 'starting')
</script>

<div class="grid min-h-0 flex-1 gap-x-8 overflow-y-auto lg:grid-cols-[minmax(0,1fr)_minmax(0,44%)]">
  <div class="flex flex-col gap-4 p-5 sm:p-8">
    <header class="flex items-center gap-3">
      <Mark size={36} />
      <p class="text-soft">Ready for the floor</p>
      <Files class="ml-auto min-w-16!" quiet of={drill.name} items={givenFiles(drill.id, drill.drillId)} />
      <Button href="#/">Leave</Button>
    </header>
    <div>
      <h1 class="figure text-5xl sm:text-7xl">{trainee.name}</h1>
      <p class="mt-2 text-xl text-pretty">{drill.name} on the {rig.name}. {preview.sentence}</p>
      <p class="mt-1 text-soft">
        {count(preview.strikes, 'strike')} in {countdown(preview.seconds)}. {begins}
      </p>
    </div>
    {#if outlook.held}
      <p class="border-l-4 border-ink pl-3 text-lg font-semibold" role="alert">
        {outlook.barred ? `No round starts. ${upper(outlook.held)}` : `Held back: ${outlook.held}`}.
        <a href="#/people/{trainee.id}">To {trainee.name}</a>
      </p>
    {/if}
    {#if outlook.spared.length > 0}
      <p class="border-l-4 border-rope pl-3">While the caution stands: {outlook.spared.join('; ')}.</p>
    {/if}
    {#if preview.problem}
      <p class="border-l-4 border-ink pl-3 text-lg font-semibold" role="alert">
        {preview.problem} <a href="#{editorOf(drill.doc, drill.id)}">Change the drill</a>
      </p>
    {/if}
    <Recording {floor} {preview} {id} />
    {#if isLine(drill.doc) && drill.doc.cues}
      <label class="flex min-h-16 items-center gap-3">
        <input type="checkbox" class="size-8 shrink-0 accent-ink" bind:checked={floor.round.partner} />
        <span>
          I give the cues by hand: this screen tells me when, and from which side.
          <span class="block text-sm text-soft"
            >Keep it out of their sight. A phone buzzes: once for left, twice for right.</span>
        </span>
      </label>
    {/if}
    <div class="sticky bottom-0 flex items-center gap-4 bg-ground py-2 lg:static">
      <Button main class="min-h-20! grow px-12! text-2xl! sm:grow-0" disabled={cannot} onclick={() => floor.start(id)}
        >Start</Button>
      <p class="hidden text-sm text-soft sm:block">or Space</p>
    </div>
    <Problem text={floor.round.problem} />
    <div class="max-w-prose text-sm"><Caution>{preview.before.join(' ')}</Caution></div>
  </div>
  <div class="flex flex-col justify-center gap-4 lg:min-h-0 border-rope p-5 lg:border-l-2">
    <div class="min-h-64 flex-1 lg:max-h-[70vh]">
      <Dial cycle={preview.cycle} {planned} {moves} tempo={preview.shown} stance={floor.stance} />
    </div>
    <dl class="flex flex-wrap justify-center gap-x-10 gap-y-2">
      <div>
        <dt class="label">Goal in a row{outlook.best > 0 ? `, best ${outlook.best}` : ''}</dt>
        <dd class="figure text-5xl">{outlook.target}</dd>
      </div>
      {#if outlook.clean > 0}
        <div>
          <dt class="label" title={outlook.made}>Expected clean</dt>
          <dd class="figure text-5xl">{Math.round(100 * outlook.clean)}<span class="text-2xl"> %</span></dd>
        </div>
      {/if}
    </dl>
  </div>
</div>
