import { defineAsyncComponent } from 'vue'

/** Parts that the first page can be painted without: they come right after it. */
export const ElAlert = defineAsyncComponent(() => import('./alert'))
export const ElButton = defineAsyncComponent(() => import('./button'))
export const ElInput = defineAsyncComponent(() => import('./input'))
