<!-- What went wrong, where it went wrong; nothing where nothing did. -->
<script lang="ts">
  let { text }: { text: string } = $props()
</script>

{#if text}<p class="mt-3 border-l-4 border-ink pl-3 font-semibold" role="alert">{text}</p>{/if}
