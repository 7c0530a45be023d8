<script setup lang="ts">
import 'element-plus/theme-chalk/el-descriptions.css'
import 'element-plus/theme-chalk/el-descriptions-item.css'
import RefusalNote from './RefusalNote.vue'
import { computed, ref, watch } from 'vue'
import type { FieldView, MapPartView } from '../api/client'
import { useCarPart } from '../composables/useCarPart'
import ChoiceField from './ChoiceField.vue'
import PartMap from './PartMap.vue'

/** The parts and joints of an axle, from above and from the side; a picked part can be corrected. */
const props = defineProps<{ axle: 'front' | 'rear'; fields: FieldView[]; prefix: string }>()
const { found: axles, problem } = useCarPart(
  'parts',
  (path) => (api) => api.GET('/api/cars/{car_id}/parts', { params: { path } }),
)
const map = computed(() => axles.value?.find((one) => one.axle === props.axle))
const picked = ref('')
const part = computed(() => map.value?.parts.find((one) => one.key === picked.value))
const told = computed(() =>
  [
    ...(part.value?.joints ?? []).map((said) => ({ what: 'Joint', said })),
    { what: 'Held while it is out', said: part.value?.carries },
    { what: 'Along it', said: part.value?.along },
    { what: 'By geometry', said: part.value?.moves },
  ].filter((one) => one.said),
)
const own = computed(() => props.fields.filter((one) => one.name.startsWith(`${picked.value}.`)))
const pick = (one: MapPartView | null) => (picked.value = one?.key ?? '')

watch(
  () => props.axle,
  () => (picked.value = ''),
)
</script>

<template>
  <section v-if="map?.parts.length" class="card stack" :aria-label="`${prefix} parts and joints`">
    <h3>Parts and joints</h3>
    <RefusalNote :said="problem" />
    <div class="grid grid-cols-[repeat(auto-fit,minmax(min(300px,100%),1fr))] gap-12px">
      <figure class="m-0">
        <PartMap :axle="map" :picked="picked" @pick="pick" />
        <figcaption class="soft">{{ map.layout }} from above, front upwards</figcaption>
      </figure>
      <figure class="m-0">
        <PartMap :axle="map" :picked="picked" from-side @pick="pick" />
        <figcaption class="soft">Left side, front to the left</figcaption>
      </figure>
    </div>
    <p v-if="!part" class="soft">Tap a part: what joins it, what it carries, what it moves.</p>
    <template v-else>
      <h4 class="m-0">{{ part.label }}</h4>
      <el-descriptions :column="1" :label-width="170" border>
        <el-descriptions-item v-for="one in told" :key="one.what + one.said" :label="one.what">
          {{ one.said }}
        </el-descriptions-item>
      </el-descriptions>
      <template v-if="own.length">
        <p class="soft">Where this car differs, say so; plans follow it.</p>
        <ChoiceField v-for="field in own" :key="field.key" :field="field" :prefix="prefix" />
      </template>
    </template>
  </section>
</template>
