<!-- For whom and on which bag, and keeping what was written. -->
<script lang="ts">
  import type { Schemas } from '../../lib/api/client'
  import { kinds } from '../../lib/bench/kinds.svelte'
  import Button from '../../lib/ui/Button.svelte'
  import type { Sheet } from './sheet.svelte'

  type Props = {
    sheet: Sheet
    people: Schemas['Trainee'][]
    bags: Schemas['Rig'][]
    onsave: (run: boolean) => void
  }
  let { sheet, people, bags, onsave }: Props = $props()
  const drill = $derived(sheet.desk.drill!)
  const cannot = $derived(!sheet.composed || !!sheet.refused)
</script>

<div class="flex flex-wrap items-end gap-x-4 gap-y-2">
  <label class="block min-w-44 flex-1">
    <span class="label">For whom</span>
    <select class="input mt-1" bind:value={drill.traineeId}>
      {#each people as t (t.id)}
        <option value={t.id}>{t.name}{t.stance === 'southpaw' ? ', southpaw' : ''}</option>
      {/each}
    </select>
  </label>
  <label class="block min-w-44 flex-1">
    <span class="label">On which bag</span>
    <select class="input mt-1" bind:value={drill.rigId}>
      {#each bags as b (b.id)}<option value={b.id}>{b.name}, {kinds.of(b.doc.kind).name}</option>{/each}
    </select>
  </label>
  <div class="ml-auto flex flex-wrap gap-2">
    <Button disabled={sheet.past.length === 0} onclick={() => sheet.undo()}>Undo</Button>
    <Button disabled={sheet.future.length === 0} onclick={() => sheet.redo()}>Redo</Button>
    <Button disabled={cannot} onclick={() => onsave(false)}>Save</Button>
    <Button main disabled={cannot} onclick={() => onsave(true)}>Save and run</Button>
  </div>
</div>
