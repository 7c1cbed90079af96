<!-- Learning the real bag: strike and tap along, count returns in a time, or start and stop a watch. What it would change is
     shown before it is kept; what was kept is listed and can be undone. -->
<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { Act } from '../act.svelte'
  import { api, ask, type Schemas } from '../api/client'
  import type { Units } from '../format'
  import Button from '../ui/Button.svelte'
  import Choice from '../ui/Choice.svelte'
  import Problem from '../ui/Problem.svelte'
  import Fitted from './Fitted.svelte'
  import KeptSoFar from './KeptSoFar.svelte'
  import { kinds } from './kinds.svelte'
  import { Measuring, type Method } from './measuring.svelte'
  import TapAlong from './TapAlong.svelte'
  import TapMoments from './TapMoments.svelte'
  import Timed from './Timed.svelte'

  type Props = { rig: Schemas['Rig']; dirty: boolean; units: Units; onkept: (rig: Schemas['Rig']) => void }
  let { rig, dirty, units, onkept }: Props = $props()
  const act = new Act(useQueryClient())
  const history = createQuery(() => ({
    queryKey: ['calibrations', rig.id, rig.version],
    queryFn: () => ask(api.GET('/api/rigs/{id}/calibrations', { params: { path: { id: rig.id } } })),
  }))
  const moments = createQuery(() => ({
    queryKey: ['tap-moments', rig.id, rig.version],
    queryFn: () => ask(api.POST('/api/tap-moments', { body: rig.doc })),
  }))
  const m = new Measuring(() => rig)
  const words = $derived(kinds.of(rig.doc.kind).tapping)
  const newest = $derived(history.data?.find((c) => !c.undone))

  /** The bag as it is then kept stands on the page before it is said so. */
  const kept = (name: string, work: () => Promise<Schemas['Rig']>, said: string) =>
    void act.do(name, async () => onkept(await work()), { said, unchanged: 'Nothing was changed.' })
</script>

{#if newest?.stale}
  <p class="mb-2 border-l-4 border-ink pl-3 font-semibold" role="status">
    The bag was changed since it was last calibrated. Measure it again.
  </p>
{:else if history.data && !newest}
  <p class="mb-2 text-soft">Not calibrated yet: {words.parameter.toLowerCase()} is our guess.</p>
{/if}

<Choice
  label="How it is measured"
  value={m.method}
  options={[
    { value: 'taps', text: 'Strike and tap along' },
    { value: 'count', text: 'Count in a time' },
    { value: 'period', text: 'Start and stop' },
  ]}
  onchange={(v) => m.by(v as Method)} />
{#if dirty}
  <p class="mt-2 text-soft">Save the measures first; then it is calibrated as saved.</p>
{:else}
  {#if moments.data}
    <TapMoments moments={moments.data} kind={rig.doc.kind} {words} />
  {:else if moments.isError}
    <p class="mt-2 text-soft">
      The moments to tap could not be drawn: {moments.error.message}
      <Button quiet onclick={() => moments.refetch()}>Try again</Button>
    </p>
  {/if}
  {#if m.method === 'taps'}<TapAlong {m} {words} />{:else}<Timed {m} {words} />{/if}
  <Problem text={act.problem || m.problem} />
  {#if m.fit}<Fitted {m} fit={m.fit} {words} {units} />{/if}
  <div class="mt-2 flex flex-wrap gap-2">
    <Button main disabled={!m.fit || !!m.doubt} onclick={() => kept('keep', m.keep, 'The calibration is kept.')}
      >Keep this</Button>
    <Button disabled={!m.begun} onclick={() => m.again()}>Begin again</Button>
  </div>
{/if}
<KeptSoFar
  history={history.data ?? []}
  undoable={dirty ? undefined : newest?.id}
  {units}
  onundo={(id) => kept('undo', () => m.undo(id), 'The calibration is undone.')} />
