<!-- A part of a sentence that is the control for what it says: pressed it opens beside it, arrow keys step it, a figure is dragged
     sideways or typed over. Its width stays while it is held, so that nothing else moves. -->
<script lang="ts">
  import { Popover } from 'bits-ui'
  import type { Snippet } from 'svelte'

  type Props = {
    text: string
    label: string
    figure?: boolean // it can be dragged and typed over
    onstep?: ((by: number) => void) | undefined
    children: Snippet<[() => void]> // what it opens; told how to close it
  }
  let { text, label, figure = false, onstep, children }: Props = $props()
  let open = $state(false)
  let button = $state<HTMLButtonElement | null>(null)
  let inside = $state<HTMLElement | null>(null)
  let width = $state('')
  let drag: { x: number; taken: number } | null = null
  let dragged = false
  const perStep = 8 // px
  const phone = matchMedia('(max-width: 40rem)')

  const hold = () => (width ||= button ? `${button.getBoundingClientRect().width}px` : '')
  /** On a phone what is set covers the foot of the page: picture and sentence are brought up above it. */
  function opened(now: boolean) {
    if (now && phone.matches) button?.closest('[data-instrument]')?.scrollIntoView({ block: 'start' })
    if (!now) release()
  }
  const release = () => (width = open ? width : '')

  function down(e: PointerEvent) {
    dragged = false
    if (!figure || !onstep || e.button !== 0) return
    drag = { x: e.clientX, taken: 0 }
    button?.setPointerCapture(e.pointerId)
  }
  function move(e: PointerEvent) {
    if (!drag) return
    const steps = Math.trunc((e.clientX - drag.x) / perStep)
    if (steps !== 0) {
      dragged = true
      hold()
    }
    if (steps !== drag.taken) onstep?.(steps - drag.taken)
    drag.taken = steps
  }
  function up() {
    drag = null
    if (document.activeElement !== button) release()
  }

  const steps: Record<string, number> = {
    ArrowUp: 1,
    ArrowRight: 1,
    ArrowDown: -1,
    ArrowLeft: -1,
    PageUp: 10,
    PageDown: -10,
  }
  /** What is opened has the focus in its field, or on the choice that is taken; what was typed on the part stands in it. */
  let typed = ''
  function opening(e: Event) {
    e.preventDefault()
    const first = inside?.querySelector<HTMLElement>(
      'input:not([type=hidden]), [data-state=checked], button:not(.step)',
    )
    first?.focus()
    if (first instanceof HTMLInputElement && typed) {
      first.value = typed
      first.dispatchEvent(new Event('input', { bubbles: true }))
    } else if (first instanceof HTMLInputElement) first.select()
    typed = ''
  }

  function keys(e: KeyboardEvent) {
    if (e.ctrlKey || e.metaKey || e.altKey) return
    const by = steps[e.key]
    if (by && onstep) onstep(by)
    else if (figure && /^[0-9]$/.test(e.key)) {
      typed = e.key
      open = true
    } else return
    e.preventDefault()
  }
</script>

{#snippet content()}
  {@render children(() => (open = false))}
{/snippet}

<Popover.Root bind:open onOpenChange={opened}
  ><Popover.Trigger>
    {#snippet child({ props })}
      <button
        {...props}
        bind:this={button}
        type="button"
        class="part {figure ? 'touch-pan-y' : ''}"
        style:width={width || undefined}
        aria-label="{text}, {label}"
        onfocus={hold}
        onblur={release}
        onpointerdown={down}
        onpointermove={move}
        onpointerup={up}
        onpointercancel={up}
        onclick={(e) => {
          if (dragged) e.preventDefault()
          else (props.onclick as (e: MouseEvent) => void)?.(e)
        }}
        onkeydown={(e) => {
          keys(e)
          if (!e.defaultPrevented) (props.onkeydown as (e: KeyboardEvent) => void)?.(e)
        }}>{text}</button>
    {/snippet}
  </Popover.Trigger><Popover.Portal>
    {#if phone.matches}
      <Popover.ContentStatic
        class="fixed inset-x-0 bottom-0 z-20 max-h-[42dvh] overflow-y-auto border-t-2 border-ink bg-sheet p-4"
        onOpenAutoFocus={opening}
        aria-label={label}>
        <div bind:this={inside}>{@render content()}</div>
      </Popover.ContentStatic>
    {:else}
      <Popover.Content
        class="z-20 max-h-[min(60vh,var(--bits-popover-content-available-height))] w-80 overflow-y-auto rounded-[3px] border-2 border-ink bg-sheet p-4 shadow-[0_6px_0_var(--shade)]"
        side="bottom"
        align="start"
        sideOffset={6}
        collisionPadding={12}
        onOpenAutoFocus={opening}
        aria-label={label}>
        <div bind:this={inside}>{@render content()}</div>
      </Popover.Content>
    {/if}
  </Popover.Portal></Popover.Root>
