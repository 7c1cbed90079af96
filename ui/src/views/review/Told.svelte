<!-- The round in words: by whose clock it was judged, what was remarked, and what to watch next time. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { recorders } from '../../lib/labels.gen'

  let { r }: { r: Schemas['Review'] } = $props()
  const clock = $derived(
    r.keptBy === 'beat'
      ? 'The beat set the time: each strike was due at its planned moment.'
      : r.onScreen
        ? 'The bag on the screen set the time: each strike was due when it came back from the one before.'
        : 'The bag set the time: each strike was due when the bag came back from the one before, by how hard that one was.',
  )
</script>

<section class="seam mt-6 pt-4" aria-labelledby="told">
  <h2 id="told" class="text-xl font-bold">How it went</h2>
  <div class="mt-1 grid gap-x-10 gap-y-3 md:grid-cols-2">
    <div>
      <p class="mb-1 text-soft">
        {r.run.source === 'standin' ? 'Demo hits.' : `Hits recorded by ${recorders[r.run.source]}.`}
        {clock}
      </p>
      <ul class="max-w-prose space-y-1">
        {#each r.remarks as remark (remark)}<li>{remark}</li>{/each}
      </ul>
      {#if r.compared}<p class="mt-1">{r.compared}</p>{/if}
      {#if r.judged && !r.summary.counts && !r.run.removed}
        <p class="mt-1 text-soft">Stopped early: not counted for the ladder.</p>
      {/if}
    </div>
    {#if r.recap.length > 0}
      <div>
        <h3 class="label">Next time, watch</h3>
        <ul class="list-[square] pl-5">
          {#each r.recap as line (line)}<li>{line}</li>{/each}
        </ul>
      </div>
    {/if}
  </div>
</section>
