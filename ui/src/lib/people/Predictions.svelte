<!-- How well what is predicted of rounds holds, in ten steps: where dot and line part, the models are wrong of these people. -->
<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask } from '../api/client'
  import { count, percent } from '../format'
  import More from '../ui/More.svelte'

  const held = createQuery(() => ({ queryKey: ['predictions'], queryFn: () => ask(api.GET('/api/predictions')) }))
  const bins = $derived((held.data?.bins ?? []).filter((b) => b.rounds > 0))
  const size = 200
  const at = (v: number) => 20 + v * (size - 30)
</script>

{#if held.isError}
  <p class="mt-8" role="alert">
    The predictions could not be read. <button class="min-h-6 underline" onclick={() => void held.refetch()}
      >Try again</button>
  </p>
{:else if held.data && held.data.rounds > 0}
  <section class="mt-8" aria-labelledby="held">
    <h2 id="held" class="text-xl font-bold">How good the predictions are</h2>
    <div class="mt-2 flex flex-wrap items-start gap-8">
      <svg
        width={size}
        height={size}
        viewBox="0 0 {size} {size}"
        role="img"
        aria-label="Predicted and real share of clean strikes">
        <g aria-hidden="true">
          <path d="M{at(0)} {size - at(0)}L{at(1)} {size - at(1)}" stroke="var(--edge)" stroke-width="2" />
          <path d="M{at(0)} {size - at(1)}V{size - at(0)}H{at(1)}" fill="none" stroke="var(--soft)" />
          {#each bins as b (b.from)}<circle
              cx={at(b.predicted ?? 0)}
              cy={size - at(b.observed ?? 0)}
              r={Math.min(9, 2 + Math.sqrt(b.rounds))}
              fill="var(--ink)"
              ><title
                >{percent(b.predicted ?? 0)} predicted, {percent(b.observed ?? 0)} observed, {count(
                  b.rounds,
                  'round',
                )}</title
              ></circle
            >{/each}
          <text x={at(0.5)} y={size - 4} text-anchor="middle" class="fill-soft text-[0.75rem]">predicted</text>
          <text
            x="12"
            y={size - at(0.5)}
            text-anchor="middle"
            transform="rotate(-90 12 {size - at(0.5)})"
            class="fill-soft text-[0.75rem]">observed</text>
        </g></svg>
      <div>
        <p class="text-lg">
          On average a round is off by {percent(held.data.miss ?? 0)} of its strikes, over {count(
            held.data.rounds,
            'judged round',
          )}.
        </p>
        <More title="Tenth by tenth">
          <table class="mt-2 text-left text-sm">
            <thead class="text-soft"
              ><tr
                ><th class="pr-6 font-semibold">Predicted</th><th class="pr-6 text-right font-semibold">Observed</th><th
                  class="text-right font-semibold">Rounds</th
                ></tr
              ></thead>
            <tbody
              >{#each bins as b (b.from)}<tr class="border-b border-rope"
                  ><td class="py-1 pr-6">{percent(b.predicted ?? 0)}</td><td class="pr-6 text-right"
                    >{percent(b.observed ?? 0)}</td
                  ><td class="text-right">{b.rounds}</td></tr
                >{/each}</tbody>
          </table>
        </More>
        <p class="mt-2 max-w-prose text-sm text-soft">By the models alone, before a person’s own rounds are added.</p>
      </div>
    </div>
  </section>
{/if}
