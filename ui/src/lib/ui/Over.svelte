<!-- What lies over the page until it is left: by its own button, by Escape, or by a press beside it. -->
<script lang="ts">
  import { Dialog } from 'bits-ui'
  import type { Snippet } from 'svelte'

  type Props = { title: string; open?: boolean; onleave?: () => void; children: Snippet }
  let { title, open = $bindable(true), onleave, children }: Props = $props()
</script>

<Dialog.Root bind:open onOpenChange={(now) => !now && onleave?.()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-ink/40" />
    <Dialog.Content
      class="fixed top-1/2 left-1/2 z-50 max-h-[92vh] w-[min(92vw,30rem)] -translate-1/2 overflow-y-auto border-2 border-ink bg-sheet p-6">
      <Dialog.Title class="text-xl font-bold">{title}</Dialog.Title>
      {@render children()}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
