<!-- A time in seconds, typed or stepped. -->
<script lang="ts">
  type Props = { label: string; value: number; least?: number; most?: number; onchange: (v: number) => void }
  let { label, value, least = 1, most = 3600, onchange }: Props = $props()
  let wrong = $state('')
  function typed(text: string) {
    const parts = text.split(':').map(Number)
    const v = parts.length === 2 ? 60 * parts[0]! + parts[1]! : Number(text)
    if (!Number.isInteger(v) || v < least || v > most) {
      wrong = `Expected ${least} to ${most} seconds, or minutes such as 3:00.`
      return
    }
    wrong = ''
    onchange(v)
  }
</script>

<label class="block">
  <span class="label">{label}, in seconds or as 3:00</span>
  <input
    class="input mt-1"
    inputmode="numeric"
    value={String(value)}
    aria-invalid={wrong ? 'true' : undefined}
    oninput={(e) => typed(e.currentTarget.value)} />
</label>
{#if wrong}<p class="mt-1 text-sm font-semibold">{wrong}</p>{/if}
