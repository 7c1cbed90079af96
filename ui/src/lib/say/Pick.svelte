<!-- One of a list, inside a part: a press takes it and closes. -->
<script lang="ts">
  type Option = { value: string; text: string }
  type Props = { label: string; value: string; options: Option[]; onpick: (value: string) => void }
  let { label, value, options, onpick }: Props = $props()
</script>

<p class="label mb-1">{label}</p>
<ul class="-mx-2">
  {#each options as o (o.value)}
    <li>
      <button
        type="button"
        class="min-h-11 w-full px-2 text-left hover:bg-shade {o.value === value ? 'font-bold' : ''}"
        aria-current={o.value === value ? 'true' : undefined}
        onclick={() => onpick(o.value)}>{o.text}</button>
    </li>
  {/each}
</ul>
