import { defineAsyncComponent } from 'vue'

const parts = () => import('./parts')

/** Parts that the first page can be painted without: they come right after it. */
export const ElAlert = defineAsyncComponent(() => parts().then((one) => one.ElAlert))
export const ElButton = defineAsyncComponent(() => parts().then((one) => one.ElButton))
export const ElInput = defineAsyncComponent(() => parts().then((one) => one.ElInput))

/** Have them here before the connection may be lost: what then is to be said needs them. */
export const fetchParts = () => void parts().catch(() => undefined)
