<!-- Serves the coach at the desk: one person, one bag, one rhythm, one length. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { untrack } from 'svelte'
  import { router } from 'svelte-spa-router'
  import { api, ask } from '../../lib/api/client'
  import ForWhom from '../../lib/drills/ForWhom.svelte'
  import Knobs from '../../lib/drills/Knobs.svelte'
  import { handWord } from '../../lib/trace/hands'
  import Button from '../../lib/ui/Button.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
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
  const open = () => sheet.open(params.id, new URLSearchParams(router.querystring ?? ''), bags.data!, people.data!)

  $effect(() => {
    void params.id
    if (read && !bagless) untrack(() => void open())
  })
  $effect(() => {
    // Whatever of the drill changes, it is asked about anew.
    void [drill?.rigId, $state.snapshot(drill?.doc), trainee]
    untrack(() => sheet.ask(!!trainee))
  })
</script>

<svelte:head><title>Drill · Melodromos</title></svelte:head>
{#if sheet.desk.trouble}
  <Notice title="This drill could not be read" text={sheet.desk.trouble} again={open}>
    <Button href="#/drills">To the drills</Button>
  </Notice>
{:else if bagless}
  <Notice title="A drill needs a bag." text="Measure one as it hangs; that decides which tempos there are.">
    <Button main href="#/bags/new">Add a bag</Button>
  </Notice>
{:else if !drill || !sheet.doc}
  <Notice title="Reading the drill…" />
{:else}
  <div class="grid gap-x-10 gap-y-6 lg:grid-cols-[22rem_1fr]">
    <section class="order-2 lg:order-1" aria-label="The drill">
      <Who {sheet} people={people.data ?? []} bags={bags.data ?? []} />
      <div class="seam mt-4 pt-2">
        <Knobs
          knobs={p?.knobs ?? []}
          refused={sheet.refusedOf}
          written={(k, text, value) => (k.field === 'firstHand' ? `${text} (${handWord(value, stance)})` : text)}
          onpatch={sheet.set} />
      </div>
      <label class="mt-3 block">
        <span class="label">Name, if it shall have its own</span>
        <input class="input mt-1" maxlength="120" bind:value={drill.name} placeholder={p?.name ?? ''} />
      </label>
      <Problem text={sheet.desk.problem} />
      <ForWhom desk={sheet.desk} />
      <div class="mt-4 flex flex-wrap gap-2">
        <Button main disabled={cannot} onclick={() => sheet.save(true)}>Save and run</Button>
        <Button disabled={cannot} onclick={() => sheet.save(false)}>Save</Button>
      </div>
    </section>
    <section class="order-1 min-w-0 lg:order-2" aria-label="What it comes to">
      {#if p}<ComesTo {sheet} {p} {stance} name={trainee?.name ?? ''} people={people.data ?? []} />{/if}
      <Problem text={sheet.whatIf.refusal?.message ?? ''} />
    </section>
  </div>
{/if}
