<script setup lang="ts">
import FoldAway from './FoldAway.vue'
import { computed, ref } from 'vue'

defineProps<{ busy: boolean }>()
const emit = defineEmits<{ save: [key: string, title: string] }>()
const title = ref('')
const key = computed(() =>
  title.value
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '')
    .slice(0, 40),
)
</script>

<template>
  <FoldAway class="card" title="Keep this plan as a procedure of our own">
    <form class="row" @submit.prevent="key.length > 1 && emit('save', key, title.trim())">
      <el-input
        v-model="title"
        class="flex-1 min-w-0"
        maxlength="120"
        placeholder="What we call it"
        aria-label="Name of the procedure"
      />
      <el-button native-type="submit" :disabled="busy || key.length < 2">Keep it</el-button>
    </form>
    <p class="soft">
      It stands with the others under Add what is fitted, and can be given away as a file.
    </p>
  </FoldAway>
</template>
