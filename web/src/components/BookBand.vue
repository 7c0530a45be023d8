<script setup lang="ts">
import { connection } from '../api/connection'
import WhoPicker from './WhoPicker.vue'

defineProps<{
  home: string
  homeLabel: string
  title: string
  detail: string
  waiting: number
  refused: boolean
  pages: { name: string; label: string; also?: string }[]
  label: string
}>()
</script>

<template>
  <header class="band screen-only">
    <div class="top">
      <router-link :to="{ name: home }" class="home" :aria-label="homeLabel">
        <img src="/mark.svg" alt="" width="32" height="32" />
        <span>{{ homeLabel }}</span>
      </router-link>
      <div v-if="title" class="name">
        <h1>{{ title }}</h1>
        <p>{{ detail }}</p>
      </div>
      <WhoPicker />
      <p class="link" :class="{ lost: connection.lost || refused }" role="status">
        <template v-if="connection.lost">
          ✕ {{ connection.words ? 'Not saved' : 'Connection lost'
          }}<template v-if="waiting">: {{ waiting }} waiting</template>
        </template>
        <template v-else-if="refused">✕ {{ waiting }} wait for you</template>
        <template v-else-if="waiting">{{ waiting }} being sent</template>
        <template v-else>● All saved</template>
      </p>
    </div>
    <div class="where"><slot /></div>
    <nav :aria-label="label">
      <router-link
        v-for="page in pages"
        :key="page.name"
        :to="{ name: page.name }"
        :class="{ here: page.name === $route.name || page.also === $route.name }"
      >
        {{ page.label }}
      </router-link>
    </nav>
  </header>
</template>

<style scoped>
.band {
  position: sticky;
  top: -58px;
  z-index: 5;
  background: var(--band);
  color: var(--chalk);
}

.top,
.where,
nav {
  max-width: 1240px;
  margin: 0 auto;
  padding: 0 20px;
}

.top {
  display: flex;
  gap: 18px;
  align-items: center;
  padding-top: 10px;
}

.home {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 44px;
  color: var(--chalk);
  text-decoration: none;
}

.name {
  flex: 1;
  min-width: 0;
}

.name h1 {
  font-size: 24px;
}

.name p {
  color: var(--chalk-soft);
}

.link {
  color: var(--chalk-soft);
  white-space: nowrap;
}

.link.lost {
  padding: 4px 10px;
  color: #fff;
  background: #a12d1d;
  border-radius: var(--radius);
}

.where {
  display: flex;
  gap: 22px;
  align-items: center;
  padding-top: 6px;
}

.where:empty {
  display: none;
}

nav {
  display: flex;
  gap: 4px;
  margin-top: 6px;
  overflow-x: auto;
}

nav a {
  display: grid;
  place-items: center;
  min-height: 44px;
  padding: 0 18px;
  font: 600 19px var(--figures);
  white-space: nowrap;
  color: var(--chalk-soft);
  text-decoration: none;
  border-bottom: 4px solid transparent;
}

nav a.here {
  color: var(--chalk);
  border-color: var(--brass);
}

@media (width <= 760px) {
  .top,
  .where,
  nav {
    padding-inline: 12px;
  }

  .home span {
    display: none;
  }

  .name h1 {
    font-size: 20px;
  }

  .where {
    flex-direction: column;
    gap: 4px;
    align-items: stretch;
  }

  nav {
    gap: 0;
    justify-content: space-between;
  }

  nav a {
    padding: 0 6px;
    font-size: 18px;
  }
}
</style>
