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
      <button
        type="button"
        class="mr-auto min-w-44px min-h-44px py-0 px-8px font-600 c-go bare-button"
        :aria-label="`${name}: how to measure it`"
      >
        How?
      </button>
    </template>
    <section class="grid gap-8px text-16px c-ink" :aria-label="card.title">
      <h4 class="m-0 [font:600_19px_var(--figures)]">{{ card.title }}</h4>
      <MeasureDrawing :name="card.drawing" />
      <ol class="grid gap-4px pl-20px m-0">
        <li v-for="line in card.lines" :key="line">{{ line }}</li>
      </ol>
      <p>
        <b>{{ card.usual }}</b> · {{ card.minutes }}
      </p>
      <p class="c-stop">▲ {{ card.mistake }}</p>
    </section>
  </el-popover>
</template>
