@switch ($kind)
  @case ('Prefixes')
    <td class="name">
      {{ App\View\Draw::swatch($row->stage) }}
      <a
        href="{{ at('plan.prefix', $row->id) }}{{ $single && $row->isSubnet() ? '?address=' . $find->net->first : '' }}">{{ $row->name ?: $row->prefix() }}</a>
    </td>
    <td class="mono">{{ $row->prefix() }}</td>
    <td>{{ $row->kind }}</td>
    <td>{{ $row->space->name }}</td>
    <td>{{ $row->site?->name }}</td>
  @break

  @case ('Addresses')
    <td class="mono"><a href="{{ at('plan.prefix', $row->prefix_id) }}?address={{ $row->address }}">{{ $row->address }}</a></td>
    <td class="mono">{{ $row->name }}</td>
    <td class="mono soft">{{ $row->mac }}</td>
    <td>{{ $row->prefix->name }}</td>
    <td>{{ $row->prefix->space->name }}</td>
  @break

  @case ('Names')
    <td class="mono"><a href="{{ at('name.zone', $row->zone_id) }}?filter={{ urlencode(rtrim($row->owner, '.')) }}">{{ rtrim($row->owner, '.') }}</a></td>
    <td>{{ $row->typeName() }}</td>
    <td class="mono wrap">{{ Str::limit($row->data, 90) }}</td>
    <td>{{ $row->zone->view->name }}</td>
  @break

  @case ('Zones')
    <td class="name mono"><a href="{{ at('name.zone', $row->id) }}">{{ $row->title() }}</a></td>
    <td>{{ $row->view->name }}</td>
  @break

  @case ('VLANs')
    <td class="name"><a href="{{ at('directory.vlan', $row->id) }}">{{ $row->number }} {{ $row->name }}</a></td>
    <td>{{ $row->domain->name }}</td>
  @break

  @case ('Reservations')
    <td class="mono"><a href="{{ at('lease.scope', $row->scope_id) }}">{{ $row->address }}</a></td>
    <td class="mono">{{ $row->client() }}</td>
    <td>{{ $row->scope->name }}</td>
  @break

  @case ('Leases')
    <td class="mono"><a href="{{ at('lease.lease', $row->id) }}">{{ $row->address }}</a></td>
    <td class="mono">{{ $row->mac }}</td>
    <td>{{ $row->host_name }}</td>
    <td>{{ $row->stateWords() }} on {{ $row->server->name }}</td>
    <td title="{{ $row->ends_at }}">until {{ $row->ends_at->format('j M H:i') }}</td>
  @break

  @case ('Earlier leases')
    <td class="mono"><a href="{{ at('find') }}?q={{ $row->address }}">{{ $row->address }}</a></td>
    <td class="mono">{{ $row->mac ?? 'nobody' }}</td>
    <td>{{ $row->host_name }}</td>
    <td>on {{ $row->server->name }}</td>
    <td title="{{ $row->ends_at }}">{{ $row->starts_at->format('j M H:i') }} to {{ $row->ends_at->format('j M H:i') }}</td>
  @break

  @case ('Scopes')
    <td class="name"><a href="{{ at('lease.scope', $row->id) }}">{{ $row->name }}</a></td>
    <td class="mono">{{ $row->prefix->prefix() }}</td>
  @break

  @case ('Sites')
    <td class="name"><a href="{{ at('directory.site', $row->id) }}">{{ $row->name }}</a></td>
    <td class="soft">{{ $row->parent?->name }}</td>
  @break

  @case ('Tenants')
    <td class="name"><a href="{{ at('directory.list', 'tenants') }}">{{ $row->name }}</a></td>
    <td></td>
  @break

  @case ('Servers')
    <td class="name"><a href="{{ at('ship.server', $row->id) }}">{{ $row->name }}</a></td>
    <td class="mono">{{ $row->address }}</td>
    <td>{{ $row->does() }}</td>
    <td>{{ $row->site?->name }}</td>
  @break

  @default
    <td class="name">{{ $row->name }}</td>
    <td>{{ $row->kind }}</td>
@endswitch
