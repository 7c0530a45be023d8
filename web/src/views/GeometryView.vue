<script setup lang="ts">
import 'element-plus/theme-chalk/el-segmented.css'
import RefusalNote from '../components/RefusalNote.vue'
import { computed, ref } from 'vue'
import AxleTogether from '../components/AxleTogether.vue'
import FieldGroup from '../components/FieldGroup.vue'
import SolidAxleCard from '../components/SolidAxleCard.vue'
import SidesApart from '../components/SidesApart.vue'
import WheelGeometry from '../components/WheelGeometry.vue'
import { useGeometry } from '../composables/useGeometry'
import { saySigned, sayNumber } from '../composables/useWords'
import { useCar } from '../stores/car'

const store = useCar()
/** The rear first: what it does decides where the front is to point. */
const AXLES = [
  { value: 'rear', label: '1 Rear axle' },
  { value: 'front', label: '2 Front axle' },
]
const axle = ref<'front' | 'rear'>('rear')
const { view, tried, axles, heights, turns, problem, follow, reset } = useGeometry()
const wheels = computed(
  () => view.value?.wheels.filter((one) => one.key.startsWith(axle.value)) ?? [],
)
const known = computed(() => wheels.value.some((one) => one.known))
const title = computed(() => (axle.value === 'front' ? 'Front' : 'Rear'))
const wanted = computed(
  () =>
    store.sheet?.fields.filter((one) => one.axle === axle.value && one.group === 'Targets') ?? [],
)
const together = computed(() => axles.value.find((one) => one.axle === axle.value))
const sides = computed(() => view.value?.sides.filter((one) => one.axle === axle.value) ?? [])
const planned = computed(() => view.value?.axles.find((one) => one.axle === axle.value))
</script>

<template>
  <div class="stack">
    <header class="row justify-between">
      <h2>Geometry</h2>
      <el-segmented v-model="axle" :options="AXLES" aria-label="Axle" />
      <span class="soft">
        {{
          view?.baseline_from
            ? `Wheel angles as last read: ${view.baseline_from}`
            : 'No baseline yet: measure this car first.'
        }}
      </span>
    </header>
    <RefusalNote :said="problem" />
    <section v-if="known" class="card stack" aria-label="What if">
      <label
        class="grid grid-cols-[auto_minmax(0,1fr)_110px] gap-14px items-center lt-phone:col-auto"
      >
        <b class="lt-phone:col-span-full">Body height, {{ axle }} axle</b>
        <el-slider
          v-model="heights[axle]"
          :min="-80"
          :max="80"
          :show-tooltip="false"
          :aria-label="`Body height change, ${axle} axle`"
        />
        <span class="figure text-26px text-right">{{ saySigned(heights[axle] ?? 0, 0) }} mm</span>
      </label>
      <div class="row">
        <el-button type="primary" @click="follow">Try the plan</el-button>
        <el-button @click="reset">Nothing turned</el-button>
        <span v-if="together" role="status">
          As tried: total toe <b class="figure">{{ sayNumber(together.total_deg, 2) }}°</b>, thrust
          <b class="figure">{{ sayNumber(together.thrust_deg, 2) }}°</b>
          <template v-if="together.steering_wheel_deg !== null">
            , steering wheel at
            <b class="figure">{{ sayNumber(together.steering_wheel_deg, 1) }}°</b>
          </template>
        </span>
      </div>
      <AxleTogether v-if="planned" :axle="planned" />
      <SidesApart :sides="sides" />
    </section>
    <SolidAxleCard
      v-for="one in view?.solid.filter((each) => each.axle === axle)"
      :key="one.axle"
      :axle="one"
    />
    <div v-if="known || !view?.solid.some((each) => each.axle === axle)" class="pair">
      <WheelGeometry
        v-for="one in wheels"
        :key="one.key"
        v-model:turns="turns[one.key]!"
        :wheel="one"
        :tried="tried[one.key]"
      />
    </div>
    <FieldGroup v-if="wanted.length" title="Targets" :fields="wanted" :prefix="title" />
    <section v-if="view?.order.length" class="card stack">
      <h3>In which order</h3>
      <ol class="m-0 [line-height:1.8]">
        <li v-for="step in view.order" :key="step">{{ step }}</li>
      </ol>
      <p class="soft">
        Counted turns bring the car to the alignment rack, they do not replace it. The vehicle
        maker's service data comes first.
      </p>
    </section>
  </div>
</template>
