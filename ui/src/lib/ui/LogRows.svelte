<!-- Rounds, a row each: who did what, and how much of it was clean. -->
<script lang="ts">
  import { endings } from '../labels.gen'
  import type { Schemas } from '../api/client'
  import { clockTime, percent, rated, shortDay, upper } from '../format'

  let { rows, zone, dated = false }: { rows: Schemas['LogRow'][]; zone: string; dated?: boolean } = $props()
</script>

<ul>
  {#each rows as r (r.id)}
    {@const at = r.startedAt ?? r.createdAt}
    <li class="border-b border-rope">
      <svelte:element
        this={r.brought ? 'div' : 'a'}
        href={r.brought ? undefined : `#/review/${r.id}`}
        class="grid grid-cols-[4.5rem_1fr_6.5rem] items-center gap-3 py-3 no-underline sm:grid-cols-[5.5rem_1fr_9rem_6.5rem] {r.brought
          ? ''
          : 'hover:bg-shade'}">
        <span class="text-sm text-soft">{dated ? shortDay(at, zone) : clockTime(at, zone)}</span>
        <span class="min-w-0"
          ><strong>{r.trainee}</strong>
          <span class="block text-sm text-pretty text-soft"
            >{r.drillName}, {r.rigName}{r.brought ? '; from a table' : ''}</span>
          {#if r.first || r.rating}
            <span class="block text-sm text-pretty"
              >{[r.first ? upper(r.first) : '', r.rating ? rated(r.rating) || 'a note' : '']
                .filter(Boolean)
                .join(' · ')}</span>
          {/if}</span>
        <span class="hidden h-2 bg-shade sm:block" aria-hidden="true"
          ><span class="block h-2 bg-ink" style:width={`${100 * (r.summary?.share ?? 0)}%`}></span></span>
        <span class="text-right">
          {#if r.summary?.unjudged || r.summary?.planned === 0}<span class="text-sm text-soft"
              >{endings[r.ending] ?? ''} not judged</span>
          {:else if r.summary}<strong>{r.summary.give ? 'about ' : ''}{percent(r.summary.share)}</strong>
            <span class="block text-sm text-soft"
              >{r.summary.longest} in a row{endings[r.ending] ? `, ${endings[r.ending]}` : ''}</span>
          {:else}<span class="text-sm text-soft">{r.state === 'paused' ? 'paused' : 'running'}</span>{/if}
        </span>
      </svelte:element>
    </li>
  {/each}
</ul>
