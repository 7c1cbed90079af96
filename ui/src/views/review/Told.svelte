<!-- The round in words: its headline, by whose clock it was judged, what was remarked, and what to watch next time. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { percent, recorders } from '../../lib/format'

  let { r }: { r: Schemas['Review'] } = $props()
  const clock = $derived(
    r.keptBy === 'beat'
      ? 'The beat set the time: each strike was due at its planned moment.'
      : r.onScreen
        ? 'The bag on the screen set the time: each strike was due when it came back from the one before.'
        : 'The bag set the time: each strike was due when the bag came back from the one before, by how hard that one was.',
  )
  const predicted = $derived(r.predicted != null && r.summary.counts && r.summary.hits > 0 ? r.predicted : null)
</script>

<div>
  <h1 class="mt-1 text-4xl leading-tight font-extrabold tracking-tight">{r.headline}</h1>
  <div class="mt-3 grid gap-x-10 gap-y-3 md:grid-cols-2">
    <div>
      <p class="mb-1 text-soft">
        {r.run.source === 'standin' ? 'Demo hits.' : `Hits recorded by ${recorders[r.run.source]}.`}
        {clock}
      </p>
      <ul class="max-w-prose space-y-1 text-lg">
        {#each r.remarks as remark (remark)}<li>{remark}</li>{/each}
      </ul>
      {#if predicted !== null}
        <p class="mt-1 text-soft">
          The models predicted {percent(predicted)} clean; it was {percent(r.summary.share)}.
        </p>
      {/if}
      {#if r.judged && !r.summary.counts && !r.run.removed}
        <p class="mt-1 text-soft">
          It was ended early, so it does not count for the ladder, or for what {r.run.trainee.name} can do.
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
