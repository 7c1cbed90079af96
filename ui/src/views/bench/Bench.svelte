<!-- Serves the coach at the desk, and beside the bag with a tape measure: how to hang this rig for somebody, what it then does,
     and what is wrong with it. One page for all kinds. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { untrack } from 'svelte'
  import { replace, router } from 'svelte-spa-router'
  import { Act } from '../../lib/act.svelte'
  import { api, ask, type Schemas } from '../../lib/api/client'
  import { asked } from '../../lib/address'
  import SideView from '../../lib/bench/SideView.svelte'
  import Standing from '../../lib/drafts/Standing.svelte'
  import { session } from '../../lib/session.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Caution from '../../lib/ui/Caution.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Unreadable from '../../lib/ui/Unreadable.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import { Desk } from './desk.svelte'
  import Does from './Does.svelte'
  import Head from './Head.svelte'
  import Say from './Say.svelte'
  import Swing from './Swing.svelte'

  let { params }: { params: { id: string } } = $props()
  const act = new Act(useQueryClient())
  const people = createQuery(() => ({ queryKey: ['trainees'], queryFn: () => ask(api.GET('/api/trainees')) }))
  const desk = new Desk()
  const a = $derived(desk.whatIf.answer)
  type Hung = Parameters<typeof desk.rows>[0]
  const query = () => asked()

  $effect(() => {
    const id = params.id
    void router.querystring
    act.problem = ''
    untrack(() => void desk.load(id, query()))
  })
  $effect(() => {
    // For whom: the one of the address, the one of last time, or the first whose height is known.
    const list = people.data
    if (!list || desk.traineeId) return
    const remembered = query().get('trainee') ?? localStorage.getItem('bench-for')
    desk.traineeId = (list.find((t) => t.id === remembered) ?? list.find((t) => t.height) ?? list[0])?.id ?? ''
  })
  $effect(() => {
    if (desk.reading || people.isPending) return
    const question = desk.question()
    untrack(() => void desk.whatIf.ask(question))
  })

  $effect(() => {
    void [desk.name, $state.snapshot(desk.doc), $state.snapshot(desk.place), desk.reading]
    untrack(() => desk.keepDraft())
  })

  async function save() {
    const before = $state.snapshot(desk.saved) as Schemas['Rig'] | null
    const kept = await act.do('save', () => desk.save(), {
      said: ({ name }) => `${name} is saved.`,
      undo: (kept) => (before ? back(before) : archive(kept)),
      undone: before ? `${before.name} is as it was.` : `${desk.name} is archived.`,
      unchanged: 'Nothing was saved.',
      refused: (e) => before !== null && desk.meanwhile.takes(e),
    })
    if (!kept || before) return
    // The first speed bag of a gym leads on to the first drill.
    const drills = await ask(api.GET('/api/drills')).catch(() => null)
    const first = drills?.length === 0 && kept.doc.kind === 'speed'
    void replace(first ? `/drills/new?rig=${kept.id}` : `/bags/${kept.id}`)
  }
  /** Puts a bag back as it was before it was saved, wherever one is by now. */
  async function back(before: Schemas['Rig']) {
    const at = { params: { path: { id: before.id } } }
    const { version } = await ask(api.GET('/api/rigs/{id}', at))
    const kept = await ask(api.PUT('/api/rigs/{id}', { ...at, body: { ...before, version } }))
    if (desk.saved?.id === before.id) desk.keep(kept)
  }
  const archive = ({ id }: Schemas['Rig']) => ask(api.DELETE('/api/rigs/{id}', { params: { path: { id } } }))
</script>

<svelte:head><title>{desk.name || 'New bag'} · Melodromos</title></svelte:head>
{#if desk.trouble}
  <Notice title="This bag could not be read" text={desk.trouble} again={() => desk.load(params.id, query())}>
    <Button href="#/bags">To the bags</Button>
  </Notice>
  <Unreadable of={['bag']} id={params.id} />
{:else if desk.reading}
  <Notice title="Reading the bag…" />
{:else}
  <Head {desk} people={people.data ?? []} onsave={save} />
  <Problem text={act.problem} />
  <Standing
    since={desk.draft.since}
    mine={() => desk as Hung}
    theirs={desk.meanwhile.theirs}
    rows={(bag) => desk.rows(bag, session.units)}
    ondrop={() => desk.putBack(() => void desk.load(params.id, query()))}
    onmine={() => desk.keepMine() && void save()}
    ontheirs={() => desk.keepTheirs()} />
  <Problem text={desk.refused('launch') ? '' : (desk.whatIf.refusal?.message ?? '')} />
  {#if a}
    <div class="mt-2 grid gap-x-6 gap-y-3 lg:grid-cols-[23rem_1fr]">
      <section class="min-w-0" aria-label="As it hangs" data-instrument aria-busy={desk.whatIf.pending}>
        <div class="bg-sheet {desk.whatIf.pending ? 'opacity-70' : ''}">
          <SideView
            side={a.side}
            setUp={a.setUp}
            body={a.body}
            stand={a.setUp.stand}
            units={session.units}
            tallest={400}
            onset={(changes) => desk.set(changes)}
            read={desk.value} />
        </div>
      </section>
      <section class="min-w-0" aria-label="What it does" data-instrument>
        <Swing {desk} {a} stance={people.data?.find((t) => t.id === desk.traineeId)?.stance ?? ''} />
        <div class="mt-2"><Say {desk} {a} /></div>
      </section>
    </div>
    <Does {desk} {a} people={people.data ?? []} />
    <div class="mt-6"><Caution>{a.caution}</Caution></div>
  {/if}
{/if}
