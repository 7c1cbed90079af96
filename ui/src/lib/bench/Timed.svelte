<!-- Counting a bag's returns against a watch, or stopping the time of some. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import Button from '../ui/Button.svelte'
  import type { Measuring } from './measuring.svelte'

  let { m, words }: { m: Measuring; words: Schemas['Tapping'] } = $props()
</script>

<p class="mt-1 text-sm">
  {m.method === 'count'
    ? `${words.timed} Count ${words.counted} against a watch, from the ${words.first} on.`
    : `Set it swinging. Start at one of the ${words.counted}, count on, and stop at the last.`}
</p>
<div class="mt-2 flex flex-wrap items-end gap-3">
  <label class="block w-28">
    <span class="label">Count of {words.counted}</span>
    <input class="input mt-1" type="number" min="1" max="60" bind:value={m.count} oninput={() => void m.look()} />
  </label>
  {#if m.method === 'count'}
    <label class="block w-28">
      <span class="label">Seconds</span>
      <input
        class="input mt-1"
        type="number"
        min="0.05"
        max="300"
        step="any"
        bind:value={m.seconds}
        oninput={() => void m.look()} />
    </label>
  {:else}
    <Button main class="min-h-16 min-w-32 text-lg" onclick={(e: MouseEvent) => m.watch(e.timeStamp / 1000)}>
      {m.started === null ? 'Start' : 'Stop'}
    </Button>
    {#if m.seconds}<span class="figure pb-2 text-3xl">{m.seconds.toFixed(2)} s</span>{/if}
  {/if}
</div>
