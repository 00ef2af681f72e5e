@unless ($me->isBound())
  <section class="panel">
    <header>
      <h2>Names by leases</h2>
      <span class="soft">{{ $scope->name_who?->title() ?? 'nobody writes them' }}</span>
      @if ($scope->name_who && $me->operates())
        <a class="end" href="{{ at('lease.scope.names', $scope->id) }}">What stands there</a>
      @endif
    </header>
    @if ($scope->name_who && $scope->nameZone)
      <p class="pad">
        Into <a href="{{ at('name.zone', $scope->name_zone_id) }}">{{ $scope->nameZone->title() }}</a>,
        {{ $scope->nameKey ? 'signed with ' . $scope->nameKey->title() : 'unsigned' }}, TTL
        {{ \HarborPost\Core\Dns\Ttl::of((int) $scope->name_ttl)->spoken() }}:
        {{ $scope->name_by_pattern ? 'by the pattern ' . $scope->name_pattern : 'as clients say, made a label of a host' }}.
        @if (!$scope->name_by_pattern && $scope->name_pattern !== '')
          Who says nothing is named by the pattern {{ $scope->name_pattern }}.
        @endif
        @if (!$pointers)
          @mark('warn') No pointer is written: no reverse zone of {{ $net }} in this view takes the updates.
        @endif
      </p>
    @endif
  </section>
@endunless
