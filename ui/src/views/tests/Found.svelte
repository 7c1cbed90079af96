<!-- What a test found, each figure with how sure it is. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { ability, sure } from '../../lib/format'
  import { figureNames } from '../../lib/labels.gen'
  import { session } from '../../lib/session.svelte'

  let { result }: { result: Schemas['TestResult'] } = $props()
  const left = $derived(result.leftOut > 0 ? `, ${result.leftOut} left out` : '')
</script>

<ul class="mt-3">
  {#each result.found as f (f.figure)}
    <li class="border-b border-rope py-1.5">
      {figureNames[f.figure]}{f.floor ? ', at least' : ''}: <b>{ability(f.figure, f.value, session.units)}</b>
      <span class="text-sm text-soft">{sure(f.figure, f.spread, session.units)}</span>
    </li>
  {/each}
</ul>
<p class="mt-2 text-sm text-soft">
  {result.used} used{left}. Rounds on the bag count for more.
</p>
