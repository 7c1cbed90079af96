<!-- A few figures side by side in a form, each shown as its value times a factor. -->
<script lang="ts">
  type Field = { field: string; name: string; step: number; factor: number }
  let { label, of, fields }: { label: string; of: object; fields: Field[] } = $props()
  const values = $derived(of as Record<string, number>)
  const shown = (f: Field) => Number((values[f.field]! * f.factor).toFixed(f.step < 1 ? 2 : 0))
</script>

<p class="label mt-3">{label}</p>
<div class="mt-1 grid grid-cols-3 gap-3 {fields.length > 3 ? 'sm:grid-cols-5' : ''}">
  {#each fields as f (f.field)}
    <label class="block">
      <span class="text-sm">{f.name}</span>
      <input
        class="input mt-1"
        type="number"
        step={f.step}
        required
        value={shown(f)}
        onchange={(e) => (values[f.field] = Number(e.currentTarget.value) / f.factor)} />
    </label>
  {/each}
</div>
