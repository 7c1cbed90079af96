<!-- Serves the coach at the desk: one person, one bag, one rhythm, one length. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { untrack } from 'svelte'
  import { api, ask } from '../../lib/api/client'
  import { asked } from '../../lib/address'
  import ForWhom from '../../lib/drills/ForWhom.svelte'
  import Title from '../../lib/drills/Title.svelte'
  import Unsaved from '../../lib/drills/Unsaved.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Unreadable from '../../lib/ui/Unreadable.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import ComesTo from './ComesTo.svelte'
  import { Sheet } from './sheet.svelte'
  import Who from './Who.svelte'

  let { params }: { params: { id: string } } = $props()
  const people = createQuery(() => ({ queryKey: ['trainees'], queryFn: () => ask(api.GET('/api/trainees')) }))
  // Techniques are those of the speed bag.
  const bags = createQuery(() => ({
    queryKey: ['rigs'],
    queryFn: () => ask(api.GET('/api/rigs')),
    select: (rigs) => rigs.filter((r) => r.doc.kind === 'speed'),
  }))
  const sheet = new Sheet(useQueryClient())
  const read = $derived(people.data !== undefined && bags.data !== undefined)
  const bagless = $derived(params.id === 'new' && read && bags.data!.length === 0)
  const drill = $derived(sheet.desk.drill)
  const p = $derived(sheet.answer)
  const trainee = $derived(people.data?.find((t) => t.id === drill?.traineeId))
  const stance = $derived(trainee?.stance ?? sheet.newcomer?.stance ?? 'orthodox')
  const cannot = $derived(!p || !!p.problem)
  const open = () => sheet.open(params.id, asked(), bags.data!, people.data!)

  $effect(() => {
    void params.id
    if (read && !bagless) untrack(() => void open())
  })
  $effect(() => {
    // Whatever of the drill changes, it is asked about anew.
    void [drill?.rigId, $state.snapshot(drill?.doc), trainee]
    untrack(() => sheet.ask(!!trainee))
  })
  $effect(() => {
    void [$state.snapshot(drill), p?.name]
    untrack(() => sheet.desk.keepDraft(drill?.name || p?.name || 'a drill'))
  })
</script>

{#snippet newcomer()}<Who {sheet} />{/snippet}

<svelte:head><title>Drill · Melodromos</title></svelte:head>
{#if sheet.desk.trouble}
  <Notice title="This drill could not be read" text={sheet.desk.trouble} again={open}>
    <Button href="#/drills">To the drills</Button>
  </Notice>
  <Unreadable of={['drill', 'assignment', 'bag']} />
{:else if bagless}
  <Notice title="A drill needs a bag." text="Measure one as it hangs; that decides which tempos there are.">
    <Button main href="#/bags/new">Add a bag</Button>
  </Notice>
{:else if !drill || !sheet.doc}
  <Notice title="Reading the drill…" />
{:else}
  <Title
    desk={sheet.desk}
    own={p?.name ?? ''}
    people={people.data ?? []}
    bags={bags.data ?? []}
    {cannot}
    onsave={(run) => sheet.save(run)}
    who={sheet.newcomer && people.data?.length === 0 ? newcomer : undefined}
    newcomer={sheet.newcomer?.name ?? ''} />
  <Problem text={sheet.desk.problem} />
  <Unsaved
    desk={sheet.desk}
    people={people.data ?? []}
    bags={bags.data ?? []}
    told={(d) => sheet.told(d)}
    again={open} />
  <ForWhom desk={sheet.desk} />
  {#if p}<ComesTo {sheet} {p} {stance} name={trainee?.name ?? ''} people={people.data ?? []} />{/if}
  <Problem text={sheet.whatIf.refusal?.message ?? ''} />
{/if}
