<!-- Before a class: what it holds, who goes where first, and what is hung before it. -->
<script lang="ts">
  import type { ClassFloor } from '../../lib/class/floor.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import Caution from '../../lib/ui/Caution.svelte'
  import Mark from '../../lib/ui/Mark.svelte'
  import Resting from './Resting.svelte'

  let { floor, id }: { floor: ClassFloor; id: string } = $props()
  const theClass = $derived(floor.class!)
</script>

<div class="flex min-h-0 flex-1 flex-col gap-5 overflow-y-auto p-5 sm:p-8">
  <header class="flex items-center gap-3">
    <Mark size={36} />
    <p class="text-soft">Ready for the floor</p>
    <Button class="ml-auto" href="#/class/{id}">Leave</Button>
  </header>
  <div>
    <h1 class="figure text-5xl sm:text-7xl">{theClass.name}</h1>
    <p class="mt-2 text-xl text-pretty">{theClass.plan.sentence}</p>
    <p class="mt-1 text-soft">
      {Math.round(theClass.untilUs / 6e7)} minutes, starting with {theClass.faces
        .find((f) => f.block >= 0)
        ?.title.toLowerCase()}.
    </p>
  </div>
  <div class="sticky bottom-0 flex items-center gap-4 bg-ground py-2 lg:static">
    <Button
      main
      class="min-h-20! grow px-12! text-2xl! sm:grow-0"
      disabled={floor.phase === 'starting'}
      onclick={() => floor.start()}>Start the class</Button>
    <p class="hidden text-sm text-soft sm:block">or Space</p>
  </div>
  {#if theClass.plan.said.length > 0}
    <ul class="max-w-prose border-l-4 border-rope pl-3">
      {#each theClass.plan.said as text (text)}<li>{text}</li>{/each}
    </ul>
  {/if}
  <section aria-label="The first round on the bags">
    <h2 class="label mb-2">First on the bags</h2>
    <Resting {floor} first={theClass.faces.find((f) => f.onBag)} />
  </section>
  <div class="max-w-prose text-sm">
    <Caution>{theClass.caution}</Caution>
  </div>
</div>
