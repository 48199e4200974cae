<template>
  <nav class="tabs" aria-label="Figures">
    <router-link to="/figures" exact-active-class="on">Today</router-link>
    <router-link to="/figures/compare" active-class="on">Compare</router-link>
    <router-link to="/figures/reports" active-class="on">Reports</router-link>
    <router-link to="/figures/ties" active-class="on">Does it tie?</router-link>
  </nav>
</template>

<style scoped>
.tabs {
  display: flex;
  border-bottom: var(--group);
}
.tabs a {
  padding: 12px 18px;
  font-weight: 650;
  color: var(--ink);
  text-decoration: none;
  border-right: 1px solid var(--ink);
}
.tabs a.on {
  background: #15171c;
  color: #fff;
}
</style>
