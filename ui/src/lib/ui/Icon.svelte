<!-- A sign drawn in the colour of its text. With a label it is read out, else it only decorates. -->
<script lang="ts">
  const paths = {
    cross: 'M5 5 19 19M19 5 5 19',
    warning: 'M12 3 22 20H2ZM12 9v5M12 17v.5',
    tick: 'M4 13l5 5L20 6',
    left: 'M20 12H4M11 5 4 12l7 7',
    right: 'M4 12h16M13 5l7 7-7 7',
  }
  type Props = { name: keyof typeof paths; size?: number; wide?: number; label?: string }
  let { name, size = 24, wide = 2, label = '' }: Props = $props()
</script>

<svg
  width={size}
  height={size}
  viewBox="0 0 24 24"
  fill="none"
  stroke="currentColor"
  stroke-width={wide}
  stroke-linecap="round"
  stroke-linejoin="round"
  role={label ? 'img' : undefined}
  aria-label={label || undefined}
  aria-hidden={label ? undefined : 'true'}>
  <path d={paths[name]} />
</svg>
