<!-- Serves the trainee at a screen: short tests of what the hands, the inner clock and the eyes and ears can do. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { onDestroy } from 'svelte'
  import { Act } from '../../lib/act.svelte'
  import { api, ask, type Schemas } from '../../lib/api/client'
  import { Trial } from '../../lib/people/trial.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Choice from '../../lib/ui/Choice.svelte'
  import Notice from '../../lib/ui/Notice.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import Found from './Found.svelte'
  import Pad from './Pad.svelte'

  let { params }: { params: { id: string } } = $props()
  const act = new Act(useQueryClient())
  const person = createQuery(() => ({
    queryKey: ['trainee', params.id],
    queryFn: () => ask(api.GET('/api/trainees/{id}', { params: { path: { id: params.id } } })),
  }))
  const plan = createQuery(() => ({
    queryKey: ['test-plan'],
    queryFn: () => ask(api.GET('/api/test-plan')),
    staleTime: Infinity,
  }))

  type Test = Schemas['TestTaken']['test']
  const tests: { value: Test; text: string; how: string }[] = [
    { value: 'alternate', text: 'Two hands', how: 'Left and right in turn, as fast as you can, for ten seconds.' },
    { value: 'sameHand', text: 'One hand', how: 'One hand over and over, as fast as you can, for ten seconds.' },
    {
      value: 'beat',
      text: 'Keep the beat',
      how: 'Tap with twelve clicks, and go on at the same beat once they stop. Twice.',
    },
    {
      value: 'sight',
      text: 'Light',
      how: 'Tap as soon as the disc fills. Ten times, each after a wait you cannot guess.',
    },
    { value: 'sound', text: 'Sound', how: 'Tap as soon as it sounds. Ten times.' },
  ]
  let test = $state<Test>('alternate')
  let fists = $state(false)
  let result = $state<Schemas['TestResult'] | null>(null)
  const trial = new Trial()
  onDestroy(() => trial.stop())
  const about = $derived(tests.find((t) => t.value === test)!)
  const rate = $derived(test === 'alternate' || test === 'sameHand')
  const idle = $derived(trial.state === 'idle')

  function choose(next: Test) {
    test = next
    result = null
    act.problem = ''
  }
  async function start() {
    if (!plan.data) return
    choose(test)
    const taps = await trial.run(test, plan.data)
    if (!taps) return
    const at = { params: { path: { id: params.id } }, body: { test, taps, fists: rate && fists } }
    const work = () => ask(api.POST('/api/trainees/{id}/tests', at))
    result = (await act.do('test', work, { unchanged: 'Nothing was kept.' })) ?? null
  }
  function key(e: KeyboardEvent) {
    if (idle || e.repeat) return
    if (e.key === 'Escape') trial.stop()
    else if (e.key === ' ' || /^[fj]$/i.test(e.key)) trial.tap(e.timeStamp)
    else return
    e.preventDefault()
  }
</script>

<svelte:window onkeydown={key} />
<svelte:head><title>Tests · Melodromos</title></svelte:head>
{#if person.isError}
  <Notice title="This person could not be read" text={person.error.message} again={() => person.refetch()}>
    <Button href="#/people">To the people</Button>
  </Notice>
{:else if person.data && plan.data}
  <p class="label"><a href="#/people/{params.id}">{person.data.name}</a></p>
  <h1 class="mt-1 text-4xl leading-tight font-extrabold tracking-tight">
    {result ? result.sentence : idle ? about.text : trial.says}
  </h1>
  <div class="mt-3 grid gap-x-10 gap-y-4 lg:grid-cols-[20rem_1fr]">
    <div>
      <Choice
        label="Test"
        value={test}
        options={tests.map(({ value, text }) => ({ value, text, ...(idle ? {} : { off: 'a test is under way' }) }))}
        onchange={choose}
        note={about.how} />
      {#if rate}
        <Choice
          label="With"
          value={fists ? 'fists' : 'fingers'}
          options={[
            { value: 'fingers', text: 'Fingers' },
            { value: 'fists', text: 'Fists on a pad' },
          ]}
          onchange={(v) => (fists = v === 'fists')}
          note={fists
            ? 'Gloves on a padded tablet, or somebody who taps along: the figure is taken as it is.'
            : 'Fingers are quicker than fists: this is only an upper limit.'} />
      {/if}
      <Problem text={act.problem} />
      {#if result}<Found {result} />{/if}
    </div>
    <div class="bg-sheet p-4">
      {#if idle}
        <Button main class="h-[min(56vh,34rem)] w-full !text-5xl" onclick={start}>
          {result || act.problem ? 'Again' : 'Start'}
        </Button>
      {:else}
        <Pad {trial} sides={test === 'alternate'} />
      {/if}
      <p class="mt-3 text-sm text-soft">Tap anywhere here, or F, J or Space. Escape stops it and keeps nothing.</p>
    </div>
  </div>
{:else}
  <Notice title="Reading…" />
{/if}
