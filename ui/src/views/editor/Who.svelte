<!-- Who it is for and on which bag; a gym in which nobody is entered yet enters its first here. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import Choice from '../../lib/ui/Choice.svelte'
  import type { Sheet } from './sheet.svelte'

  let { sheet, people, bags }: { sheet: Sheet; people: Schemas['Trainee'][]; bags: Schemas['Rig'][] } = $props()
  const drill = $derived(sheet.desk.drill!)
  const newcomer = $derived(sheet.newcomer)
</script>

{#if newcomer && people.length === 0}
  <label class="block">
    <span class="label">For whom</span>
    <input class="input mt-1" maxlength="120" placeholder="Name" bind:value={newcomer.name} />
  </label>
  <Choice
    label="Stance"
    value={newcomer.stance}
    options={[
      { value: 'orthodox', text: 'Orthodox' },
      { value: 'southpaw', text: 'Southpaw' },
    ]}
    onchange={(v) => (newcomer.stance = v)}
    note="Orthodox: the left hand leads." />
{:else}
  <label class="block">
    <span class="label">For whom</span>
    <select class="input mt-1" bind:value={drill.traineeId}>
      {#each people as t (t.id)}<option value={t.id}>{t.name}</option>{/each}
    </select>
  </label>
{/if}
<label class="mt-2 block">
  <span class="label">On which bag</span>
  <select class="input mt-1" bind:value={drill.rigId}>
    {#each bags as b (b.id)}<option value={b.id}>{b.name}</option>{/each}
  </select>
</label>
