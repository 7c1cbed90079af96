<!-- A gym in which nobody is entered yet enters its first person here. -->
<script lang="ts">
  import Choice from '../../lib/ui/Choice.svelte'
  import type { Sheet } from './sheet.svelte'

  let { sheet }: { sheet: Sheet } = $props()
  const newcomer = $derived(sheet.newcomer)
</script>

{#if newcomer}
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
{/if}
