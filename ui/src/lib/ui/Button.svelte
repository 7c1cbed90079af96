<!-- What is pressed: a button, or a link that looks like one. One of a few is the main one; a quiet one only leads on; a small
     one stands within a line. -->
<script lang="ts">
  import type { Snippet } from 'svelte'
  import type { HTMLAnchorAttributes, HTMLButtonAttributes } from 'svelte/elements'

  type Look = { main?: boolean; quiet?: boolean; small?: boolean; class?: string; children: Snippet }
  type Link = Omit<HTMLAnchorAttributes, 'class'> & { href: string }
  type Press = Omit<HTMLButtonAttributes, 'class'> & { href?: undefined }
  type Props = Look & (Link | Press)
  let { main = false, quiet = false, small = false, class: more = '', children, ...rest }: Props = $props()
  const look = $derived(['button', main && 'main', quiet && 'quiet', small && 'small', more])
</script>

{#if rest.href !== undefined}
  <a class={look} {...rest as Link}>{@render children()}</a>
{:else}
  <button class={look} {...rest as Press}>{@render children()}</button>
{/if}
