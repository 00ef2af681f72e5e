<x-layout title="Texts" verb="directory" :work="$may ? 'template' : null" does="write a template">
  @include('directory.nav', ['current' => 'texts'])
  <header class="title">
    <h1>Texts</h1>
    <span class="soft">made of what stands here, by templates of your own: for routers, filters, labels, whatever is written twice today</span>
  </header>
  <div class="split @if ($may) two @endif">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>Templates</h2>
        </header>
        @if ($templates->isEmpty())
          <x-empty title="No template yet">A template says how a text is made of a site, a VLAN, a prefix, a scope, a zone or a device. Its texts are made
            again when what they read changes.</x-empty>
        @else
          <x-table label="Templates" data-worktable>
            <thead>
              <tr>
                <th>Template</th>
                <th>Made of</th>
                <th class="num">Kept texts</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($templates as $t)
                <tr>
                  <td class="name wrap"><a href="{{ at('directory.text', $t->id) }}">{{ $t->name }}</a>
                    @if ($t->description !== '')
                      <br><span class="hint">{{ $t->description }}</span>
                    @endif
                  </td>
                  <td>{{ App\Models\TemplateOf::choices()[$t->of->value] }}</td>
                  <td class="num">{{ number_format($t->texts_count) }}</td>
                </tr>
              @endforeach
            </tbody>
          </x-table>
        @endif
      </section>
      <section class="panel">
        <header>
          <h2>Data of your own</h2>
          <span class="soft">the nearer layer wins, value by value</span>
        </header>
        @forelse ($data as $d)
          <details class="more">
            <summary class="pad"><b>{{ $d->place() }}</b> <span class="soft">{{ $d->layer->value }}</span></summary>
            @if ($may)
              <x-act :id="'data' . $d->id" action="keep-template-data" :seen="['data for templates:' . $d->id => $d->version]" class="pad">
                <input type="hidden" name="layer" value="{{ $d->layer->value }}">
                <input type="hidden" name="site" value="{{ $d->layer === App\Models\DataLayer::Site ? $d->at : '' }}">
                <input type="hidden" name="word" value="{{ $d->layer === App\Models\DataLayer::Site ? '' : $d->at }}">
                <x-field :form="'data' . $d->id" name="data" label="Data" mono rows="8" :value="$d->text" hint="YAML or JSON; blank takes it away" />
              </x-act>
              <div id="follows-data{{ $d->id }}" class="pad"></div>
            @else
              <pre class="made">{{ $d->text }}</pre>
            @endif
          </details>
        @empty
          <p class="pad hint">None yet. What no field holds, the NTP servers of a site for instance, is noted here and read by templates as "data".</p>
        @endforelse
        @if ($may)
          <details class="more" @if (old('_form') === 'newdata') open @endif>
            <summary class="pad">Note data at another layer</summary>
            <x-act id="newdata" action="keep-template-data" class="pad">
              <x-field form="newdata" name="layer" label="Layer"
                :options="['organisation' => 'organisation', 'site' => 'a site, with all in it', 'role' => 'a role', 'tag' => 'a tag']" />
              <x-field form="newdata" name="site" label="Site" pick="site" blank="for the layer of a site" />
              <x-field form="newdata" name="word" label="Role or tag" />
              <x-field form="newdata" name="data" label="Data" mono rows="6" placeholder="ntp: [10.32.0.1, 10.38.0.1]" hint="YAML or JSON" />
            </x-act>
            <div class="pad"><x-follows-slot form="newdata" /></div>
          </details>
        @endif
      </section>
    </div>
    @if ($may)
      <div class="side">
        <section class="panel">
          <header>
            <h2>Write a template</h2>
          </header>
          <div class="pad">
            <x-act id="template" action="keep-template">
              <x-field form="template" name="name" label="Name" />
              <x-field form="template" name="of" label="Made of" :options="App\Models\TemplateOf::choices()" />
              <x-field form="template" name="body" label="Template" mono rows="14" :value="$body" hint="in the language of Twig" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="template" />
      </div>
    @endif
  </div>
</x-layout>
