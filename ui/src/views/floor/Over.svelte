<!-- After a class: what was done, and what was left. -->
<script lang="ts">
  import type { Class } from '../../lib/class/floor.svelte'
  import { count } from '../../lib/format'
  import Button from '../../lib/ui/Button.svelte'

  let { theClass }: { theClass: Class } = $props()
  const done = $derived(new Set(theClass.faces.filter((f) => f.onBag && f.state === '').map((f) => f.lap)).size)
</script>

<div class="flex flex-1 flex-col gap-5 overflow-y-auto p-6 sm:p-10">
  <h1 class="figure text-6xl sm:text-8xl">{theClass.name} is over</h1>
  <p class="text-2xl">
    {count(done, 'round')} on the bags {done === 1 ? 'is' : 'are'} in the log of {count(
      theClass.plan.people.length,
      'person',
      'people',
    )}.
  </p>
  {#if theClass.left.length > 0}
    <section>
      <h2 class="label">Left out, for the next time</h2>
      <ul class="text-xl">
        {#each theClass.left as text (text)}<li>{text}</li>{/each}
      </ul>
    </section>
  {/if}
  <p class="flex flex-wrap gap-3">
    <Button main href="#/class/{theClass.id}">See what was done</Button>
    <Button href="#/">To today</Button>
  </p>
</div>
