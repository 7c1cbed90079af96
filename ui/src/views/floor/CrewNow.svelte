<!-- Somebody comes late or goes, or a bag breaks: what is left of the class is planned anew, from the next round on. -->
<script lang="ts">
  import { untrack } from 'svelte'
  import type { ClassFloor } from '../../lib/class/floor.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Over from '../../lib/ui/Over.svelte'
  import Problem from '../../lib/ui/Problem.svelte'
  import Crew from '../class/Crew.svelte'

  let { floor, onleave }: { floor: ClassFloor; onleave: () => void } = $props()
  const plan = untrack(() => floor.class!.plan) // as it is when this is opened
  let people = $state(plan.people.filter((p) => !p.gone).map((p) => p.id))
  let bags = $state(plan.bags.filter((b) => !b.broken).map((b) => b.id))
  let busy = $state(false)
  let problem = $state('')

  async function anew() {
    busy = true
    problem = await floor.anew(people, bags)
    busy = false
    if (!problem) onleave()
  }
</script>

<Over title="Who is here now" {onleave}>
  <Crew bind:people bind:bags />
  <p class="mt-4 flex flex-wrap gap-2">
    <Button main disabled={busy || people.length === 0} onclick={anew}>Re-plan the rest</Button>
    <Button quiet onclick={onleave}>Cancel</Button>
  </p>
  <p class="mt-2 text-sm text-soft">
    Who leaves and what breaks counts from now; who comes, and all the rest, from the next round.
  </p>
  <Problem text={problem} />
</Over>
