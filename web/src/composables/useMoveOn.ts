import { nextTick, type Ref } from 'vue'

/** After a field is saved, go on to the next measured field on the page that is still empty. */
export function useMoveOn(page: Ref<HTMLElement | null>): () => Promise<void> {
  return async () => {
    await nextTick()
    const inputs = [...(page.value?.querySelectorAll<HTMLInputElement>('input.number') ?? [])]
    const here = inputs.indexOf(document.activeElement as HTMLInputElement)
    const next = inputs.slice(here + 1).find((input) => !input.value) ?? inputs[here + 1]
    next?.focus()
  }
}
