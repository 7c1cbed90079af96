<!-- One anchor, several people: the bag hangs at each one's height, so each has another tempo; and the anchors that would
     make the tempos equal. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import { length, type Units } from '../format'

  type Props = {
    shared: Schemas['Shared'][]
    people: Schemas['Trainee'][]
    chosen: string
    other: string
    units: Units
    onchoose: (id: string) => void
  }
  let { shared, people, chosen, other, units, onchoose }: Props = $props()
</script>

<label class="block"
  ><span class="label">Who else uses this anchor</span>
  <select class="input mt-1" value={other} onchange={(e) => onchoose(e.currentTarget.value)}>
    <option value="">Nobody</option>
    {#each people.filter((p) => p.id !== chosen && p.height) as p (p.id)}<option value={p.id}
        >{p.name}, {length(p.height!, units)}</option
      >{/each}
  </select></label>
{#if shared.length > 1}
  <table class="mt-2 w-full text-left text-sm">
    <thead class="text-soft"
      ><tr
        ><th class="font-semibold">For</th><th class="text-right font-semibold">bag at</th><th
          class="text-right font-semibold">rope</th
        ><th class="text-right font-semibold">passes a minute</th></tr
      ></thead>
    <tbody
      >{#each shared as s (s.name)}<tr
          ><td>{s.name}</td><td class="text-right">{length(s.centre, units)}</td><td class="text-right"
            >{length(s.drop, units)}</td
          ><td class="figure text-right text-xl">{s.tempo.toFixed(1)}</td></tr
        >{/each}</tbody>
  </table>
  {#each shared as s, i (s.name)}
    {#each shared as t, j (t.name)}
      {#if i !== j && Math.abs(s.tempo - t.tempo) > 0.05}<p class="mt-1 text-sm">
          With the anchor at <b>{length(s.equal[j]!, units)}</b>
          {s.name} has {t.name}’s {t.tempo.toFixed(1)} a minute.
        </p>{/if}
    {/each}
  {/each}
{/if}
