<!-- What the bag does when it is struck so, and what there is to say about how it hangs. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import Calibrate from '../../lib/bench/Calibrate.svelte'
  import Checks from '../../lib/bench/Checks.svelte'
  import Cords from '../../lib/bench/Cords.svelte'
  import FromRounds from '../../lib/bench/FromRounds.svelte'
  import { parts } from '../../lib/bench/kinds.svelte'
  import SetUp from '../../lib/bench/SetUp.svelte'
  import SharedAnchor from '../../lib/bench/SharedAnchor.svelte'
  import { figure, upper } from '../../lib/format'
  import { session } from '../../lib/session.svelte'
  import More from '../../lib/ui/More.svelte'
  import type { Desk } from './desk.svelte'
  import Strike from './Strike.svelte'

  type Props = { desk: Desk; a: Schemas['Sheet']; people: Schemas['Trainee'][] }
  let { desk, a, people }: Props = $props()
  const units = $derived(session.units)
  const trainee = $derived(people.find((t) => t.id === desk.traineeId))
  const slipBag = $derived(desk.kind === 'slip')
  const loads = $derived(
    a.loads.map((l) => {
      const still = l.static > 0 ? `${figure(l.static, 'N', units)} at rest, ` : ''
      return `${(parts[l.part] ?? l.part).toLowerCase()}: ${still}${figure(l.peak, 'N', units)} at the most`
    }),
  )
  const set = (changes: { field: string; to: number }[]) => desk.set(changes)
</script>

<section class="seam mt-4 min-w-0 pt-3" aria-label="Checks and set-up">
  <div class="grid gap-x-8 gap-y-6 lg:grid-cols-2">
    <div><Strike {desk} {a} /></div>
    <div class="min-w-0">
      <h2 class="font-bold">Checks</h2>
      <Checks findings={a.findings} {units} onset={set} />
      {#if loads.length > 0}
        <More title="Loads"><p class="mt-1 text-sm text-soft">{upper(loads.join('; '))}. Modelled.</p></More>
      {/if}
    </div>
    {#if a.cords}
      <div class="seam pt-3 lg:col-span-2">
        <h2 class="mb-1 font-bold">Tension</h2>
        <Cords cords={a.cords} onwind={(way) => desk.wind(way)} />
      </div>
    {/if}
    <div class="seam min-w-0 pt-3">
      <h2 class="mb-1 font-bold">Set up for {trainee?.name ?? 'somebody'}</h2>
      <SetUp setUp={a.setUp} hung={a.hung} kind={desk.kind} {units} name={trainee?.name ?? ''} onset={set} />
      {#if slipBag && trainee?.height}
        <div class="mt-4">
          <SharedAnchor
            shared={a.shared}
            {people}
            chosen={desk.traineeId}
            other={desk.other}
            {units}
            onchoose={(id) => (desk.other = id)} />
        </div>
      {/if}
    </div>
    <div class="seam min-w-0 pt-3">
      <h2 class="mb-1 font-bold">Calibration</h2>
      {#if desk.saved}
        {#if desk.saved.fromRounds && !desk.changed}
          <FromRounds rig={desk.saved} offer={desk.saved.fromRounds} onkept={(rig) => desk.keep(rig)} />
        {/if}
        <Calibrate rig={desk.saved} dirty={desk.changed} {units} onkept={(rig) => desk.keep(rig)} />
      {:else}
        <p class="text-soft">Save this bag, then measure it for a minute: this replaces our guesses.</p>
      {/if}
    </div>
  </div>
  <More title="Where the figures come from">
    <p class="mt-1 max-w-prose text-sm text-soft">
      Tempos, windows, speeds and loads are worked out from your measurements. The fist’s mass{desk.kind === 'speed'
        ? ', the strike angle'
        : ''} and whatever is marked as assumed are our guesses until you measure. Body heights that were not measured follow
      Drillis &amp; Contini (1966).
    </p>
  </More>
</section>
