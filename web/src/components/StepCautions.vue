<script setup lang="ts">
import { computed, ref } from 'vue'

/** Where the danger is: in full the first time it applies in a job, then one red line that opens. */
const props = defineProps<{ cautions: string[]; job: string }>()
const shelf = computed(() => `fair-spindle/cautions/${props.job}`)
const known = ref<string[]>(JSON.parse(localStorage.getItem(shelf.value) ?? '[]') as string[])
const fresh = computed(() => props.cautions.filter((one) => !known.value.includes(one)))
const rest = computed(() => props.cautions.filter((one) => known.value.includes(one)))

function understood(): void {
  known.value = [...known.value, ...fresh.value]
  localStorage.setItem(shelf.value, JSON.stringify(known.value))
}
</script>

<template>
  <div v-if="fresh.length" class="notice stop fresh">
    <ul aria-label="Cautions">
      <li v-for="one in fresh" :key="one">{{ one }}</li>
    </ul>
    <el-button @click="understood">Understood</el-button>
  </div>
  <details v-if="rest.length" class="notice stop known">
    <summary>{{ rest.length > 1 ? `${rest.length} cautions: ` : '' }}{{ rest[0] }}</summary>
    <ul aria-label="Cautions">
      <li v-for="one in rest" :key="one">{{ one }}</li>
    </ul>
  </details>
</template>

<style scoped>
ul {
  display: grid;
  gap: 4px;
  padding-left: 22px;
  margin: 0;
}

li::marker {
  content: '▲  ';
}

.fresh {
  align-items: start;
  padding: 8px 12px;
}

.known {
  display: block;
  padding: 0 12px;
}

summary {
  min-height: 44px;
  overflow: hidden;
  font-weight: 600;
  line-height: 44px;
  text-overflow: ellipsis;
  white-space: nowrap;
  cursor: pointer;
}

.known[open] summary {
  white-space: normal;
  line-height: 1.4;
  padding: 10px 0;
}

@media (width <= 760px) {
  .fresh {
    display: grid;
    gap: 8px;
  }

  .fresh .el-button {
    justify-self: end;
  }
}
</style>
