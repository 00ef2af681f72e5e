@php
  $layer = $place->layer->value;
  $at = fn(string $kind, string $id = ''): string => $id === '' ? at('lease.options') : at('lease.options.of', $kind, $id);
  $count = fn(string $kind, string $id = ''): string => ($n = (int) ($counts["$kind $id"] ?? 0)) > 0 ? (string) $n : '';
@endphp
<x-layout :title="'Options of ' . $place->words()" verb="lease" :work="$may ? 'option' : null" does="set an option" :edit="$class && $may ? 'classform' : null">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('lease') }}">Scopes</a></li>
      @if ($class)
        <li><a href="{{ at('lease.classes') }}">Classes</a></li>
      @elseif ($place->scope)
        <li><a href="{{ at('lease.scope', $place->scope->id) }}">{{ $place->scope->name }}</a></li>
      @else
        <li><a href="{{ at('lease.options') }}">Options</a></li>
      @endif
      <li aria-current="page">{{ $place->name }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $place->name }}</h1>
    <span class="soft">options of {{ $place->words() }}; a layer nearer to the client hides them</span>
    @include('lease.nav', ['here' => $class ? 'Classes' : 'Options'])
  </header>
  <div class="split @if ($may) two @endif">
    <div class="stack">
      @if ($class)
        <section class="panel">
          <header>
            <h2>Clients of the class</h2>
            <span class="soft">{{ $class->any ? 'any row will do' : 'every row must hold' }}; place {{ $class->position }} among the classes</span>
          </header>
          <ul class="plain-list pad">
            @foreach ($class->rules()->conditions as $c)
              <li>{{ $c->words() }} <span class="rfc">{{ $c->field->standard() }}</span></li>
            @endforeach
          </ul>
          @if ($ranges->isNotEmpty())
            <p class="pad soft">
              @foreach ($ranges as $r)
                <a href="{{ at('lease.scope', $r->scope_id) }}">{{ $r->range() }} of {{ $r->scope->name }}</a>
                {{ $r->class_only ? 'is kept for it' : 'is closed to it' }}{{ $loop->last ? '' : ';' }}
              @endforeach
            </p>
          @endif
        </section>
      @endif
      <section class="panel">
        <header>
          <h2>Set here</h2>
          <span class="soft">{{ $rows->count() }}</span>
        </header>
        @if ($rows->isEmpty())
          <x-empty title="No option is set here">Clients get those of the layers further out.</x-empty>
        @else
          <x-table label="Options" data-worktable>
            <thead>
              <tr>
                <th>Family</th>
                <th class="num">Code</th>
                <th>Option</th>
                <th>Value</th>
                <th>Bytes</th>
                <th>Reaches</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($rows as $o)
                <tr @class(['drafted' => isset($touched["option:$o->id"])]) title="{{ $touched["option:$o->id"] ?? '' }}">
                  <td>IPv{{ $o->family->value }}</td>
                  <td class="num">{{ $o->code }}</td>
                  <td>{{ $o->name() }}</td>
                  <td class="mono wrap">
                    @if ($o->values === [])
                      <span class="open">empty on purpose</span>
                    @else
                      {{ $book->words($o->code, $o->values, $o->family, $vendor) }}
                    @endif
                  </td>
                  <td class="mono soft wrap">{{ $o->spaced() }}</td>
                  <td class="wrap">
                    @if ($layer === 'reservation')
                      one client
                    @else
                      {{ count($reach[$o->id]['reached']) }} {{ Str::plural('scope', count($reach[$o->id]['reached'])) }}{{
                          $class ? '' : ', ' . number_format($reach[$o->id]['clients']) . ' clients now' }}
                      @if ($reach[$o->id]['keep'] !== [])
                        <span class="hint">{{ count($reach[$o->id]['keep']) }} keep a nearer value</span>
                      @endif
                    @endif
                  </td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
      @if ($layer === 'organisation')
        <section class="panel" id="own">
          <header>
            <h2>Options of our own</h2>
            <span class="soft">codes that no standard defines, with a name and a shape</span>
          </header>
          @if ($own->isEmpty())
            <x-empty title="None is defined">A code without a definition is set and shown as bytes.</x-empty>
          @else
            <x-table label="Options of our own">
              <thead>
                <tr>
                  <th>Family</th>
                  <th class="num">Code</th>
                  <th>Name</th>
                  <th>Holds</th>
                  <th>For</th>
                  <th class="num">Values set</th>
                  <th></th>
                </tr>
              </thead>
              <tbody>
                @foreach ($own as $d)
                  <tr @class(['drafted' => isset($touched["definition of an option:$d->id"])])>
                    <td>IPv{{ $d->family->value }}</td>
                    <td class="num">{{ $d->code }}</td>
                    <td class="name">{{ $d->name }}</td>
                    <td>{{ $d->shape->words() }}</td>
                    <td class="wrap">{{ $d->description }}</td>
                    <td class="num">{{ $ownCounts["{$d->family->value} $d->code"] ?? 0 }}</td>
                    <td>
                      @if ($may)
                        <x-cut :id="'cutown' . $d->id" action="remove-option-definition" :input="['definition' => $d->id]" label="Remove"
                          :of="$d->name" />
                      @endif
                    </td>
                  </tr>
                @endforeach
              </tbody>
            </x-table>
          @endif
        </section>
      @endif
      @if ($layer === 'organisation')
        <section class="panel" id="templates">
          <header>
            <h2>Sub-options of makers</h2>
            <span class="soft">what devices read inside option 43, 125 or 17, by name</span>
          </header>
          @if ($templates->isEmpty())
            <x-empty title="None is described">Option 43 is set as "241=address:192.0.2.10". A template gives its sub-options names, and a form
              in the class of the maker's clients.</x-empty>
          @else
            <x-table label="Sub-options of makers">
              <thead>
                <tr>
                  <th>Name</th>
                  <th>Carried by</th>
                  <th>For clients of</th>
                  <th>Sub-options</th>
                  <th></th>
                </tr>
              </thead>
              <tbody>
                @foreach ($templates as $t)
                  <tr @class(['drafted' => isset($touched["template of sub-options:$t->id"])])>
                    <td class="name">{{ $t->name }}</td>
                    <td>option {{ $t->template()->code() }}{{ $t->family->value === 6 ? ' of IPv6' : '' }}</td>
                    <td class="wrap">{{ $t->whose() }}
                      @if ($t->vendor_class !== '' && $may)
                        <a href="{{ at('lease.classes') }}?{{ http_build_query(['field' => 'vendor-class', 'value' => $t->vendor_class]) }}">Make a
                          class of them</a>
                      @endif
                    </td>
                    <td class="mono wrap">{{ str_replace("\n", '; ', $t->subs) }}</td>
                    <td>
                      @if ($may)
                        <span class="row tight">
                          <a class="btn small" href="?template={{ $t->id }}#describe">Change</a>
                          <x-cut :id="'cuttemplate' . $t->id" action="remove-vendor-template" :input="['template' => $t->id]" label="Remove"
                            :of="$t->name" />
                        </span>
                      @endif
                    </td>
                  </tr>
                @endforeach
              </tbody>
            </x-table>
          @endif
        </section>
      @endif
      <section class="panel">
        <header>
          <h2>Layers</h2>
          <span class="soft">from the outermost in; the nearest to the client wins</span>
        </header>
        <div class="layer-list pad">
          <div>
            <h3>Organisation</h3>
            <a href="{{ $at('organisation') }}" @if ($layer === 'organisation') aria-current="page" @endif>all clients
              <span class="soft">{{ $count('organisation') }}</span></a>
          </div>
          <div>
            <h3>Servers</h3>
            @forelse ($servers as $id => $name)
              <a href="{{ $at('server', $id) }}" @if ($place->id === $id) aria-current="page" @endif>{{ $name }}
                <span class="soft">{{ $count('server', $id) }}</span></a>
            @empty
              <span class="open">no DHCP server</span>
            @endforelse
          </div>
          <div>
            <h3>Sites</h3>
            @forelse ($sites as $id => $name)
              <a href="{{ $at('site', $id) }}" @if ($place->id === $id) aria-current="page" @endif>{{ $name }}
                <span class="soft">{{ $count('site', $id) }}</span></a>
            @empty
              <span class="open">no site</span>
            @endforelse
          </div>
          <div>
            <h3>Classes</h3>
            @forelse ($classes as $id => $name)
              <a href="{{ $at('class', $id) }}" @if ($place->id === $id) aria-current="page" @endif>{{ $name }}
                <span class="soft">{{ $count('class', $id) }}</span></a>
            @empty
              <a href="{{ at('lease.classes') }}">make the first one</a>
            @endforelse
          </div>
        </div>
        <p class="pad hint">Resolvers, domain and search suffixes are settings: of the <a href="{{ at('directory.settings') }}">organisation</a>, of a
          site, of a prefix. They become options 6, 15 and 119 of their layer by
          themselves, and 23 and 24 of IPv6.</p>
      </section>
    </div>
    @if ($may)
      <div class="side">
        <section class="panel">
          <header>
            <h2>Set an option of IPv{{ $family->value }}</h2>
            @if (!$place->scope && !$class)
              <a class="end" href="?family={{ $family->value === 4 ? 6 : 4 }}">of IPv{{ $family->value === 4 ? 6 : 4 }}</a>
            @endif
          </header>
          <div class="pad">
            <x-act id="option" action="set-option" :stay="request()->getRequestUri()">
              <input type="hidden" name="layer" value="{{ $layer }}">
              <input type="hidden" name="family" value="{{ $family->value }}">
              @if ($place->id !== '')
                <input type="hidden" name="of" value="{{ $place->id }}">
              @endif
              <x-field form="option" name="code" label="Option" :options="$registered" value="{{ $class ? 43 : ($family->value === 4 ? 42 : 31) }}" />
              <x-field form="option" name="value" label="Values, one a line; bytes as 0x…; blank removes it" rows="2" mono />
              <x-check form="option" name="empty" label="empty on purpose: clients are sent none" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="option" />
        @foreach ($byTemplate as $one)
          @php
            $form = 'by' . $loop->index;
          @endphp
          <details class="panel" @if ($one['fits'] || $one['typed'] !== [] || old('_form') === $form) open @endif>
            <summary class="bar-line"><b>{{ $one['row']->name }}</b>
              <span class="soft">option {{ $one['template']->code() }}, {{ $one['row']->whose() }}</span></summary>
            <div class="pad">
              <x-act :id="$form" action="set-vendor-options" :stay="request()->getRequestUri()">
                <input type="hidden" name="template" value="{{ $one['row']->id }}">
                <input type="hidden" name="layer" value="{{ $layer }}">
                @if ($place->id !== '')
                  <input type="hidden" name="of" value="{{ $place->id }}">
                @endif
                @foreach ($one['template']->subs as $s)
                  <div class="field"><span><label for="{{ $form }}-{{ $s->code }}">{{ $s->name }}</label>
                      <span class="hint">{{ $s->code }}, {{ $s->shape->words() }}</span></span>
                    <input id="{{ $form }}-{{ $s->code }}" name="subs[{{ $s->code }}]" class="mono" maxlength="1000"
                      value="{{ old('_form') === $form ? old("subs.$s->code") : $one['typed'][$s->code] ?? '' }}">
                  </div>
                @endforeach
                <p class="hint">Several values are parted by commas; what is blank is not sent.</p>
              </x-act>
              <x-follows-slot :form="$form" />
            </div>
          </details>
        @endforeach
        @if ($layer === 'organisation')
          <details class="panel" @if (old('_form') === 'defineoption') open @endif>
            <summary class="bar-line"><b>Define an option</b></summary>
            <div class="pad">
              <x-act id="defineoption" action="define-option">
                <input type="hidden" name="family" value="{{ $family->value }}">
                <div class="pair">
                  <x-field form="defineoption" name="code" label="Code" mono
                    :placeholder="$family->value === 4 ? '224' : '65001'" />
                  <x-field form="defineoption" name="shape" label="Holds" :options="$shapes" />
                </div>
                <x-field form="defineoption" name="name" label="Name" />
                <x-field form="defineoption" name="description" label="For" hint="a code that is defined already is given these instead" />
              </x-act>
            </div>
          </details>
          <div id="follows-defineoption"></div>
          <details class="panel" id="describe" @if ($described || old('_form') === 'describeform') open @endif>
            <summary class="bar-line"><b>{{ $described ? "Change $described->name" : 'Describe sub-options of a maker' }}</b></summary>
            <div class="pad">
              <x-act id="describeform" action="keep-vendor-template"
                :seen="$described ? ['template of sub-options:' . $described->id => $described->version] : []">
                @if ($described)
                  <input type="hidden" name="template" value="{{ $described->id }}">
                @endif
                <input type="hidden" name="family" value="{{ ($described?->family ?? $family)->value }}">
                <x-field form="describeform" name="name" label="Name" :value="$described?->name ?? ''" />
                <div class="pair">
                  <x-field form="describeform" name="vendorClass" label="Vendor class starts with" mono :value="$described?->vendor_class ?? ''" />
                  <x-field form="describeform" name="enterprise" label="or enterprise number" mono :value="$described?->enterprise ?? ''" />
                </div>
                <x-field form="describeform" name="subs" label="Sub-options, a line each: CODE NAME: HOLDS" rows="5" mono
                  :value="$described?->subs ?? ''" placeholder="241 controllers: addresses" />
                <p class="hint">Holds: {{ implode(', ', array_keys($shapes)) }}.</p>
              </x-act>
            </div>
          </details>
          <div id="follows-describeform"></div>
        @endif
        @if ($class)
          <details class="panel">
            <summary class="bar-line"><b>Edit the class</b></summary>
            <div class="pad">
              <x-act id="classform" action="change-class" :seen="['class:' . $class->id => $class->version]">
                <input type="hidden" name="class" value="{{ $class->id }}">
                <x-field form="classform" name="name" label="Name" :value="$class->name" />
                @include('lease.parts.conditions', ['form' => 'classform', 'rows' => $class->conditions, 'any' => $class->any])
                <div class="pair">
                  <x-field form="classform" name="position" label="Place among the classes" :value="$class->position" />
                  <x-field form="classform" name="description" label="Description" :value="$class->description" />
                </div>
              </x-act>
              <x-cut id="cutclass" action="remove-class" :input="['class' => $class->id]" target="#follows-classform" label="Remove the class"
                class="row end" />
            </div>
          </details>
          <div id="follows-classform"></div>
        @endif
      </div>
    @endif
  </div>
</x-layout>
