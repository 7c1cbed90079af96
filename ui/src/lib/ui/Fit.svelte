<!-- How hard a drill is, by its four demands, how it suits somebody, and the neighbours that change one thing. -->
<script lang="ts">
  import { untrack } from 'svelte'
  import { api, ask, type Schemas } from '../api/client'
  import { percent } from '../format'
  import { WhatIf } from '../whatif.svelte'
  import Button from './Button.svelte'

  type Props = {
    question: Schemas['DrillQuestion'] | null
    name: string
    people?: Schemas['Trainee'][]
    ontake: (doc: Schemas['DrillDoc']) => void
  }
  let { question, name, people = [], ontake }: Props = $props()
  const whatIf = new WhatIf((q: Schemas['DrillQuestion']) => ask(api.POST('/api/compose', { body: q })))
  const f = $derived(whatIf.refusal ? null : (whatIf.answer?.suits ?? null))
  let beside = $state('')
  const others = $derived(people.filter((t) => t.id !== question?.traineeId))
  $effect(() => {
    const q = question && beside ? { ...question, beside } : question
    if (q) untrack(() => void whatIf.ask(q))
  })
  const demands = $derived(
    f
      ? ([
          ['Timing', f.grade.timing],
          ['Hands', f.grade.hands],
          ['Memory', f.grade.pattern],
          ['Reaction', f.grade.reading],
        ] as const)
      : [],
  )
  const standing = { tooHard: 'too hard', fits: 'the right level', tooEasy: 'too easy' }

  function keys(e: KeyboardEvent) {
    if (
      !f ||
      e.ctrlKey ||
      e.metaKey ||
      e.altKey ||
      (e.target as HTMLElement).closest('input, select, textarea, [role=slider], [role=dialog]')
    )
      return
    if (e.key === '[' && f.easier) ontake(f.easier.doc)
    else if (e.key === ']' && f.harder) ontake(f.harder.doc)
    else return
    e.preventDefault()
  }
</script>

<svelte:window onkeydown={keys} />
{#if f}
  <section class="mt-4 grid gap-x-8 gap-y-3 md:grid-cols-[auto_1fr_1fr]" aria-label="Level and fit">
    <div>
      <p class="label">Level</p>
      <p class="figure text-6xl">{f.grade.level.toFixed(1)}</p>
    </div>
    <dl class="grid grid-cols-[4rem_2rem_1fr] items-start gap-x-2 gap-y-1 text-sm">
      {#each demands as [what, d] (what)}
        <dt>{what}</dt>
        <dd class="text-right font-bold">{d.value.toFixed(1)}</dd>
        <dd title={d.why}>
          <span class="mt-1.5 mb-1 block h-2 border border-rope"
            ><span class="block h-full bg-ink" style:width="{10 * d.value}%"></span></span
          ><span class="text-soft">{d.why}</span>
        </dd>
      {/each}
    </dl>
    <div>
      <p>
        <b class="text-lg">{percent(f.fit.clean)} meet the bag for {name}, {standing[f.fit.standing]}.</b>
        <span class="text-soft"
          >About {Math.round(f.fit.longest)} in a row to expect (modelled).{f.fit.slips != null &&
          f.fit.slips !== f.fit.clean
            ? ` Of the moves against the bag ${percent(f.fit.slips)} are in time.`
            : ''}{f.fit.answers != null
            ? ` Of the unforeseen cues ${percent(f.fit.answers)} are answered in time.`
            : ''}
          {f.fit.made}</span>
      </p>
      {#if f.fit.weakest}<p class="text-sm">Weakest link: {f.fit.weakest}.</p>{/if}
      {#if f.beside}<p class="mt-1 text-sm">
          <b>{percent(f.beside.fit.clean)} meet the bag for {f.beside.name.split(' ')[0]}.</b> They differ by {f.beside
            .differs}.
        </p>{/if}
      <div class="mt-2 flex flex-wrap gap-2">
        {#if f.easier}<Button small onclick={() => ontake(f.easier!.doc)} aria-label="Easier: {f.easier.what}"
            ><span class="text-soft">[</span>
            {f.easier.what}: {percent(f.easier.clean)}, level {f.easier.level.toFixed(1)}</Button
          >{/if}
        {#if f.harder}<Button small onclick={() => ontake(f.harder!.doc)} aria-label="Harder: {f.harder.what}"
            ><span class="text-soft">]</span>
            {f.harder.what}: {percent(f.harder.clean)}, level {f.harder.level.toFixed(1)}</Button
          >{/if}
        {#if others.length > 0}<label class="flex items-center gap-2 text-sm text-soft"
            >Beside <select class="input !min-h-9 !w-auto !py-0" bind:value={beside}
              ><option value="">nobody</option>{#each others as t (t.id)}<option value={t.id}>{t.name}</option
                >{/each}</select
            ></label
          >{/if}
      </div>
    </div>
  </section>
{/if}
