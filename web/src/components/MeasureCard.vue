<script setup lang="ts">
import { computed } from 'vue'
import { useChoices } from '../stores/choices'
import MeasureDrawing from './MeasureDrawing.vue'

/** How a field is measured, beside it: a sketch, four lines, the usual ±, how long it takes, the common mistake. */
const props = defineProps<{ card: string; name: string }>()
const choices = useChoices()
const card = computed(() => choices.choices.cards[props.card])
</script>

<template>
  <el-popover v-if="card" trigger="click" :width="340" :persistent="false" placement="right-start">
    <template #reference>
      <button type="button" class="how" :aria-label="`${name}: how to measure it`">How?</button>
    </template>
    <section class="measure" :aria-label="card.title">
      <h4>{{ card.title }}</h4>
      <MeasureDrawing :name="card.drawing" />
      <ol>
        <li v-for="line in card.lines" :key="line">{{ line }}</li>
      </ol>
      <p>
        <b>{{ card.usual }}</b> · {{ card.minutes }}
      </p>
      <p class="stop">▲ {{ card.mistake }}</p>
    </section>
  </el-popover>
</template>

<style scoped>
.how {
  margin-right: auto;
  min-width: 44px;
  min-height: 44px;
  padding: 0 8px;
  font-weight: 600;
  color: var(--go);
  cursor: pointer;
  background: none;
  border: 0;
}

.measure {
  display: grid;
  gap: 8px;
  font-size: 16px;
  color: var(--ink);
}

h4 {
  margin: 0;
  font: 600 19px var(--figures);
}

ol {
  display: grid;
  gap: 4px;
  padding-left: 20px;
  margin: 0;
}

.stop {
  color: var(--stop);
}
</style>
