<!-- A few choices side by side, one of them taken. -->
<script lang="ts" generics="T extends string | number">
  import { RadioGroup } from 'bits-ui'

  type Option = { value: T; text: string; off?: string } // off: why it cannot be chosen
  type Props = { label: string; value: T; options: Option[]; note?: string; onchange: (value: T) => void }
  let { label, value, options, note = '', onchange }: Props = $props()
</script>

<div class="py-1">
  <p class="label mb-1">{label}</p>
  <RadioGroup.Root
    class="flex flex-wrap gap-1"
    aria-label={label}
    orientation="horizontal"
    value={String(value)}
    onValueChange={(v) => {
      const taken = options.find((o) => String(o.value) === v)
      if (taken && taken.value !== value) onchange(taken.value)
    }}>
    {#each options as o (o.value)}
      <RadioGroup.Item
        value={String(o.value)}
        disabled={!!o.off}
        title={o.off}
        class="min-h-10 rounded-[3px] border-2 border-edge px-3 font-semibold text-ink hover:bg-shade disabled:opacity-40 data-[state=checked]:border-ink data-[state=checked]:bg-ink data-[state=checked]:text-ground">
        {o.text}
      </RadioGroup.Item>
    {/each}
  </RadioGroup.Root>
  {#if note}<p class="mt-1 text-sm text-soft">{note}</p>{/if}
</div>
