/** What is asked for behind the ? of the address as it stands now: the router does not hear of what a page puts there itself. */
export const asked = () => new URLSearchParams(location.hash.split('?')[1] ?? '')
