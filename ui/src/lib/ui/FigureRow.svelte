<!-- Figures in a row, each under its name. -->
<script lang="ts">
  type Props = { figures: { name: string; text: string }[]; class?: string }
  let { figures, class: layout = '' }: Props = $props()
</script>

<dl class="grid {layout}">
  {#each figures as f (f.name)}
    <div>
      <dt class="label">{f.name}</dt>
      <dd class="figure text-4xl">{f.text}</dd>
    </div>
  {/each}
</dl>
