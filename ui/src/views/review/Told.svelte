<!-- The round in words: its headline, by whose clock it was judged, what was remarked, and what to watch next time. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { percent } from '../../lib/format'

  let { r }: { r: Schemas['Review'] } = $props()
  const clock = $derived(
    r.keptBy === 'beat'
      ? 'The beat set the time: each strike is held against its planned moment.'
      : r.onScreen
        ? 'The bag on the screen set the time: each strike is due when it came back from the one before.'
        : 'The bag set the time: each strike is due when it came back from the one before, as hard as that one was.',
  )
  const predicted = $derived(r.predicted != null && r.summary.counts && r.summary.hits > 0 ? r.predicted : null)
</script>

<div>
  <h1 class="mt-1 text-4xl leading-tight font-extrabold tracking-tight">{r.headline}</h1>
  <div class="mt-3 grid gap-x-10 gap-y-3 md:grid-cols-2">
    <div>
      <p class="mb-1 text-soft">{clock}</p>
      <ul class="max-w-prose space-y-1 text-lg">
        {#each r.remarks as remark (remark)}<li>{remark}</li>{/each}
      </ul>
      {#if predicted !== null}
        <p class="mt-1 text-soft">
          {percent(predicted)} were predicted to meet the bag by the models; {percent(r.summary.share)} did.
        </p>
      {/if}
      {#if r.judged && !r.summary.counts && !r.run.removed}
        <p class="mt-1 text-soft">
          It was ended early, so it moves neither the ladder nor what is known of {r.run.trainee.name}.
        </p>
      {/if}
    </div>
    {#if r.recap.length > 0}
      <div>
        <h2 class="label">Next time, watch</h2>
        <ul class="list-[square] pl-5">
          {#each r.recap as line (line)}<li>{line}</li>{/each}
        </ul>
      </div>
    {/if}
  </div>
</div>
