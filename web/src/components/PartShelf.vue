<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { computed, ref } from 'vue'
import { ask, newId, type ShelfPart } from '../api/client'
import { useRead } from '../composables/useRead'
import { useCar } from '../stores/car'

const props = defineProps<{ prefixes: string[] }>()
const store = useCar()
const open = ref(false)
const {
  found: parts,
  problem,
  busy,
  guarded,
  again,
} = useRead(['parts'], (api) => api.GET('/api/parts'), { when: open })
const name = ref('')
const said = ref('')
const prefix = ref(props.prefixes[0] ?? '')
const fitting = computed(
  () => parts.value?.filter((one) => prefix.value.endsWith(`.${one.kind}`)) ?? [],
)
const say = (key: string) => key.split('.').join(' ').replace('_', ' ')

function show(): void {
  open.value = true
  said.value = ''
}

const save = () =>
  guarded(async () => {
    const part = {
      id: newId(),
      name: name.value.trim(),
      car_id: store.car!.id,
      prefix: prefix.value,
    }
    if (!part.name) {
      problem.value = 'Give the part a name.'
      return
    }
    await ask((api) => api.POST('/api/parts', { body: part }))
    said.value = `“${part.name}” is on the shelf.`
    name.value = ''
    await again()
  })

const fit = (part: ShelfPart) =>
  guarded(async () => {
    const wanted = { id: newId(), seen: store.car!.version, part_id: part.id, prefix: prefix.value }
    store.take(
      await ask((api) =>
        api.POST('/api/cars/{car_id}/fit-part', {
          params: { path: { car_id: store.car!.id } },
          body: wanted,
        }),
      ),
    )
    said.value = `“${part.name}” is fitted at ${say(prefix.value)}.`
  })
</script>

<template>
  <el-button text @click="show">Shelf…</el-button>
  <el-dialog v-model="open" title="Parts on the shelf" width="560" append-to-body>
    <div class="grid gap-10px">
      <label v-if="prefixes.length > 1" class="grid gap-4px font-600">
        Which one
        <el-select v-model="prefix" :persistent="false" aria-label="Which one">
          <el-option v-for="one in prefixes" :key="one" :value="one" :label="say(one)" />
        </el-select>
      </label>
      <form class="grid gap-10px" @submit.prevent="save">
        <label class="grid gap-4px font-600">
          Save it under a name
          <el-input v-model="name" maxlength="120" />
        </label>
        <el-button native-type="submit" :disabled="busy">Put on the shelf</el-button>
      </form>
      <p v-if="!fitting.length" class="soft">Nothing on the shelf fits here yet.</p>
      <div
        v-for="part in fitting"
        :key="part.id"
        class="part flex gap-12px items-center justify-between pt-8px ruled"
      >
        <span>
          <b>{{ part.name }}</b> <span class="soft">{{ part.said }}</span>
        </span>
        <el-button type="primary" :disabled="busy" @click="fit(part)">Fit</el-button>
      </div>
      <el-alert v-if="said" type="success" :closable="false" role="status">{{ said }}</el-alert>
      <RefusalNote :said="problem" />
    </div>
  </el-dialog>
</template>
