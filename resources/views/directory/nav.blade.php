{{-- The pages of the directory: $current one --}}
@php
  $pages = auth()->user()->isBound()
      ? ['sites' => 'Sites', 'vlans' => 'VLANs']
      : [
          'sites' => 'Sites',
          'tenants' => 'Tenants',
          'spaces' => 'Spaces',
          'vlans' => 'VLANs',
          'domains' => 'Domains',
          'devices' => 'Devices',
          'people' => 'People',
          'teams' => 'Teams',
          'grants' => 'Grants',
          'settings' => 'Settings',
          'texts' => 'Texts',
      ];
@endphp
<nav aria-label="Directory"><span class="oneof">
    @foreach ($pages as $key => $label)
      <a href="{{ at('directory.list', $key) }}" @if ($key === $current) aria-current="page" @endif>{{ $label }}</a>
    @endforeach
  </span>
</nav>
