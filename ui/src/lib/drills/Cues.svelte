<!-- The cues of a drill that are written and not chosen: set counters, and attacks with their answers. -->
<script lang="ts">
  import type { Schemas } from '../api/client'
  import type { Patch } from './patch'

  let { cues, onpatch }: { cues: Schemas['Cues']; onpatch: (patch: Patch) => void } = $props()
  const attacks = $derived(cues.attacks ?? [])

  function counters(text: string) {
    const list = text.split(';').map((t) => t.trim())
    const said = list.filter(Boolean)
    if (said.length > 0) onpatch({ cues: { counters: said } })
  }
  const attack = (i: number, change: Partial<Schemas['Attack']>) =>
    onpatch({ cues: { attacks: attacks.map((a, k) => (k === i ? { ...a, ...change } : a)) } })
</script>

{#if cues.counters?.length}
  <label class="block py-1">
    <span class="label">Set counters, separated by semicolons</span>
    <input class="input mt-1" value={cues.counters.join('; ')} onchange={(e) => counters(e.currentTarget.value)} />
  </label>
{/if}
{#each attacks as a, i (i)}
  <div class="grid grid-cols-[1fr_1.4fr] gap-2 py-1">
    <label class="block">
      <span class="label">Called</span>
      <input
        class="input mt-1"
        value={a.name}
        maxlength="40"
        onchange={(e) => attack(i, { name: e.currentTarget.value })} />
    </label>
    <label class="block">
      <span class="label">Answered by</span>
      <input
        class="input mt-1"
        value={a.answer}
        maxlength="100"
        onchange={(e) => attack(i, { answer: e.currentTarget.value })} />
    </label>
  </div>
{/each}
