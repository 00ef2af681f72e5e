<x-layout title="Plan" verb="plan">
  <header class="title">
    <h1>Plan</h1>
  </header>
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <div class="empty">
          <h2>No space yet</h2>
          <p class="soft">A space is a set of addresses in which a prefix is unique; two networks that use the same private addresses are two spaces.
            Most organisations start with one.</p>
        </div>
      </section>
      <section class="panel">
        <header>
          <h2>Make the first space</h2>
        </header>
        <div class="pad">
          <x-act id="space" action="make-space">
            <x-field form="space" name="name" label="Name" value="Core" />
            <x-field form="space" name="routeDistinguisher" label="Route distinguisher, if any" mono hint="RFC 4364: 64512:10" /></x-act>
        </div>
      </section>
    </div>
    <aside class="side">
      <x-follows-slot form="space" />
    </aside>
  </div>
</x-layout>
