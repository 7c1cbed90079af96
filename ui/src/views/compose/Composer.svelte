<!-- Serves the coach at the desk: a combination as it is written and said, how it flows, and where it lands on this bag. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { untrack } from 'svelte'
  import { api, ask } from '../../lib/api/client'
  import { asked } from '../../lib/address'
  import type { Line } from '../../lib/drills/doc'
  import ForWhom from '../../lib/drills/ForWhom.svelte'
  import { shortcuts } from '../../lib/shortcuts.svelte'
  import Title from '../../lib/drills/Title.svelte'
  import Unsaved from '../../lib/drills/Unsaved.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Cards from '../../lib/ui/Cards.svelte'
  import Fit from '../../lib/ui/Fit.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Unreadable from '../../lib/ui/Unreadable.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import Balance from './Balance.svelte'
  import Flow from './Flow.svelte'
  import InShort from './InShort.svelte'
  import Landing from './Landing.svelte'
  import { Preview } from './preview.svelte'
  import { Sheet } from './sheet.svelte'
  import Worked from './Worked.svelte'
  import Written from './Written.svelte'

  let { params }: { params: { id: string } } = $props()
  const sheet = new Sheet(useQueryClient())
  const preview = new Preview()
  const people = createQuery(() => ({ queryKey: ['trainees'], queryFn: () => ask(api.GET('/api/trainees')) }))
  const bags = createQuery(() => ({ queryKey: ['rigs'], queryFn: () => ask(api.GET('/api/rigs')) }))
  const ready = $derived(people.data !== undefined && bags.data !== undefined)
  const missing = $derived(
    !ready || (bags.data!.length > 0 && people.data!.length > 0)
      ? null
      : bags.data!.length === 0
        ? { text: 'Measure a bag first.', to: '#/bags/new', link: 'Add a bag' }
        : { text: 'Add a person first.', to: '#/people', link: 'To the people' },
  )

  const p = $derived(sheet.answer)
  const c = $derived(sheet.composed)
  const drill = $derived(sheet.desk.drill)
  const trainee = $derived(people.data?.find((t) => t.id === drill?.traineeId))
  const stance = $derived(trainee?.stance ?? 'orthodox')
  const open = () => sheet.open(params.id, asked(), bags.data!, people.data!)

  $effect(() => {
    void params.id
    if (ready && !missing) untrack(() => void open())
  })
  $effect(() => {
    // Whatever of the drill changes, it is asked about anew.
    void [drill?.rigId, drill?.traineeId, $state.snapshot(drill?.doc), stance]
    untrack(() => sheet.ask(stance))
  })

  $effect(() => {
    const text = sheet.doc?.text
    if (text !== undefined) untrack(() => sheet.show(text))
  })
  $effect(() => {
    void $state.snapshot(drill)
    untrack(() => sheet.desk.keepDraft(drill?.name || sheet.doc?.text || 'a combination'))
  })

  function keys(e: KeyboardEvent) {
    const key = e.key.toLowerCase()
    const at = e.target as HTMLElement
    const held = e.ctrlKey || e.metaKey
    if (held && (key === 'y' || (key === 'z' && e.shiftKey))) sheet.redo()
    else if (held && key === 'z') sheet.undo()
    else if (!shortcuts.plain(e)) return
    else if (key === 'm') void sheet.turn('mirror')
    else if (key === 'c') void sheet.turn('counterpart')
    else if (key === ' ' && !at.closest('button, a, [role=radio]')) void preview.play(c)
    else return
    e.preventDefault()
  }
</script>

<svelte:window onkeydown={keys} />
<svelte:head><title>Combination · Melodromos</title></svelte:head>
{#if sheet.desk.trouble}
  <Notice title="This drill could not be read" text={sheet.desk.trouble} again={open}>
    <Button href="#/drills">To the drills</Button>
  </Notice>
  <Unreadable of={['drill', 'assignment', 'bag']} />
{:else if missing}
  <Notice title="A combination needs a bag and a person." text={missing.text}>
    <Button href={missing.to}>{missing.link}</Button>
  </Notice>
{:else if !drill || !sheet.doc}
  <Notice title="Reading the drill…" />
{:else}
  <Title
    desk={sheet.desk}
    own={c?.canonical ?? ''}
    people={people.data ?? []}
    bags={bags.data ?? []}
    cannot={!c || !!sheet.refused}
    onsave={(run) => sheet.save(run, stance)}>
    <Button disabled={sheet.past.length === 0} onclick={() => sheet.undo()}>Undo</Button>
    <Button disabled={sheet.future.length === 0} onclick={() => sheet.redo()}>Redo</Button>
  </Title>
  <Problem text={sheet.desk.problem} />
  <Unsaved
    desk={sheet.desk}
    people={people.data ?? []}
    bags={bags.data ?? []}
    told={(d) => sheet.told(d, stance)}
    again={open} />
  <ForWhom desk={sheet.desk} />
  <Written {sheet} />
  {#if p && c}
    <div data-instrument>
      <Landing {sheet} {p} {c} {stance} />
      <div class="mt-2"><Worked {sheet} {p} {c} /></div>
    </div>
    <div class="seam mt-3 grid content-start items-start gap-x-8 gap-y-4 pt-3 lg:min-h-48 lg:grid-cols-[1fr_20rem]">
      <Fit
        question={sheet.question}
        name={trainee?.name.split(' ')[0] ?? ''}
        people={people.data ?? []}
        ontake={(next) => sheet.replace(next as Line)} />
      <InShort {c} {preview} onturn={sheet.turn} />
    </div>
    <div class="seam mt-6 grid gap-x-10 gap-y-6 pt-4 lg:grid-cols-2">
      <Flow {sheet} {c} />
      <Balance {sheet} {c} kind={bags.data?.find((b) => b.id === drill.rigId)?.doc.kind ?? ''} />
    </div>
    <Cards cards={p.cards} />
  {/if}
{/if}
