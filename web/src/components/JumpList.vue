<script setup lang="ts">
import { useDebounceFn, useMutationObserver, useWindowSize } from '@vueuse/core'
import { nextTick, onMounted, ref, shallowRef, watch } from 'vue'

/** On a page of more than three screens: its parts by their headings, one tap away. */
const props = defineProps<{ page: HTMLElement | null }>()
const SCREENS = 3
const FEWEST = 3
const open = ref(false)
const parts = shallowRef<{ words: string; place: HTMLElement }[]>([])
const { height } = useWindowSize()

/** A heading that stands several times on a page says its axle in the label of its section. */
function fullName(heading: HTMLElement): string {
  const words = heading.innerText.trim()
  const label = heading.closest('[aria-label]')?.getAttribute('aria-label')?.trim()
  return label?.endsWith(words) ? label : words
}

function look(): void {
  const long = document.documentElement.scrollHeight > SCREENS * height.value
  const found = [...(props.page?.querySelectorAll<HTMLElement>('h2, h3') ?? [])]
    .filter((one) => one.offsetParent && one.innerText.trim())
    .map((place) => ({ words: fullName(place), place }))
  parts.value = long && found.length >= FEWEST ? found : []
}

async function go(place: HTMLElement): Promise<void> {
  open.value = false
  await nextTick()
  place.tabIndex = -1
  place.focus({ preventScroll: true })
  place.scrollIntoView({ block: 'start' })
}

const lookSoon = useDebounceFn(look, 200)
useMutationObserver(() => props.page, lookSoon, { childList: true, subtree: true })
watch(height, lookSoon)
onMounted(lookSoon)
</script>

<template>
  <div v-if="parts.length" class="jump screen-only fixed right-12px bottom-12px [z-index:4]">
    <el-button
      aria-label="On this page"
      aria-haspopup="dialog"
      :aria-expanded="open"
      @click="open = true"
    >
      ☰<span class="words">&nbsp;On this page</span>
    </el-button>
    <el-drawer v-model="open" direction="btt" size="70%" title="On this page" append-to-body>
      <ul class="bare-list">
        <li v-for="(part, n) in parts" :key="n">
          <el-button text @click="go(part.place)">{{ part.words }}</el-button>
        </li>
      </ul>
    </el-drawer>
  </div>
</template>

<style scoped>
.jump > .el-button {
  color: var(--chalk);
  background: var(--band);
}

/* Where the main action stays at the bottom it stands beside it, over nothing. */
@media (width <= 760px) {
  main:has(.finish) > .jump {
    right: 31px;
    bottom: 8px;
  }

  main:has(.finish) > .jump > .el-button {
    min-height: 60px;
  }

  main:has(.finish) > .jump .words {
    display: none;
  }

  :global(main:has(> .jump) .finish) {
    padding-right: 62px;
  }
}

li .el-button {
  justify-content: start;
  width: 100%;
  font-size: 18px;
  text-align: left;
}
</style>
