<!-- How hard a drill is, by its four demands, how it suits somebody, and the neighbours that change one thing. -->
<script lang="ts">
  import { untrack } from 'svelte'
  import { api, ask, type Schemas } from '../api/client'
  import { percent } from '../format'
  import { shortcuts } from '../shortcuts.svelte'
  import { WhatIf } from '../whatif.svelte'
  import Part from '../say/Part.svelte'
  import Pick from '../say/Pick.svelte'
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
  const nameOf = (id: string) => others.find((t) => t.id === id)?.name.split(' ')[0] ?? ''
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
    if (!f || !shortcuts.plain(e)) return
    if (e.key === '[' && f.easier) ontake(f.easier.doc)
    else if (e.key === ']' && f.harder) ontake(f.harder.doc)
    else return
    e.preventDefault()
  }
</script>

<svelte:window onkeydown={keys} />
{#if f}
  <section
    class="grid items-start gap-x-8 gap-y-3 sm:grid-cols-[auto_13rem] md:grid-cols-[auto_13rem_1fr] {whatIf.pending
      ? 'opacity-70'
      : ''}"
    aria-label="Level and fit"
    aria-busy={whatIf.pending}>
    <div>
      <p class="label">Level</p>
      <p class="figure text-6xl">{f.grade.level.toFixed(1)}</p>
    </div>
    <dl class="grid grid-cols-[4.5rem_2rem_1fr] items-center gap-x-2 gap-y-0.5 text-sm">
      {#each demands as [what, d] (what)}
        <dt>{what}</dt>
        <dd class="text-right font-bold">{d.value.toFixed(1)}</dd>
        <dd title={d.why}>
          <span class="block h-2.5 border border-soft"
            ><span class="block h-full bg-ink" style:width="{10 * d.value}%"></span></span
          ><span class="sr-only">{d.why}</span>
        </dd>
      {/each}
    </dl>
    <div class="text-sm sm:col-span-2 md:col-span-1">
      <p>
        <b class="text-lg">{percent(f.fit.clean)} clean for {name}: {standing[f.fit.standing]}.</b>
        <span class="text-soft"
          >Expect about {Math.round(f.fit.longest)} in a row.{f.fit.slips != null && f.fit.slips !== f.fit.clean
            ? ` ${percent(f.fit.slips)} of the head moves are in time.`
            : ''}{f.fit.answers != null ? ` ${percent(f.fit.answers)} of the random cues are answered in time.` : ''}
          {f.fit.made}</span>
      </p>
      {#if f.fit.weakest}<p>Weakest link, {f.fit.weakest}.</p>{/if}
      {#if f.beside}<p class="mt-1">
          <b>{percent(f.beside.fit.clean)} clean for {f.beside.name.split(' ')[0]}.</b> They differ by {f.beside
            .differs}.
        </p>{/if}
      <div class="mt-1 flex flex-wrap items-center gap-2">
        {#if f.easier}<Button
            small
            onclick={() => ontake(f.easier!.doc)}
            aria-label="Easier: {f.easier.what}: {percent(f.easier.clean)}"
            ><span class="text-soft" aria-hidden="true">[</span>
            {f.easier.what}: {percent(f.easier.clean)}</Button
          >{/if}
        {#if f.harder}<Button
            small
            onclick={() => ontake(f.harder!.doc)}
            aria-label="Harder: {f.harder.what}: {percent(f.harder.clean)}"
            ><span class="text-soft" aria-hidden="true">]</span>
            {f.harder.what}: {percent(f.harder.clean)}</Button
          >{/if}
        {#if others.length > 0}<Part
            text={beside ? `beside ${nameOf(beside)}` : 'compare with somebody'}
            label="Compare">
            {#snippet children(close)}
              <Pick
                label="Compare with"
                value={beside}
                options={[{ value: '', text: 'Nobody' }, ...others.map((t) => ({ value: t.id, text: t.name }))]}
                onpick={(id) => {
                  beside = id
                  close()
                }} />
            {/snippet}
          </Part>{/if}
      </div>
    </div>
  </section>
{/if}
