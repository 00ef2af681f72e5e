<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Acts\Engine\Acts;
use App\Acts\Texts\KeepTemplate;
use App\Acts\Texts\KeepTemplateData;
use App\Models\Person;
use App\Models\Site;
use App\Models\Template;
use App\Texts\TextMaking;

/** Texts that the team makes of its plan, in forms of its own. */
final class Texts
{
    private const TABLE = <<<'TWIG'
        # gateways at {{ it.name }}, made of the plan: not to be edited by hand
        time {{ data.time|join(' ') }}
        messages to {{ data.messages.to }}, level {{ data.messages.level }}

        {% for subnet in list('prefixes', {site_id: it.id, kind: 'subnet', stage: 'live', family: '4'}) %}
        {% if subnet.vlan %}
        vlan {{ subnet.vlan.number }} {{ subnet.vlan.name }}
          subnet  {{ subnet.prefix|network }} mask {{ subnet.prefix|mask }}
          gateway {{ subnet.gateway|default('none', true) }}
        {% endif %}
        {% endfor %}
        TWIG;

    private const LABELS = <<<'TWIG'
        {% for host in list('addresses', {prefix_id: it.id}) %}
        {{ host.name|pad(20) }} {{ host.address|pad(16) }} {{ it.name }}
        {% endfor %}
        TWIG;

    public function __construct(private readonly Acts $acts, private readonly Kittiwake $k)
    {
    }

    public function load(): void
    {
        $maren = Person::query()->where('sign_in', 'maren')->firstOrFail();
        $data = static fn (string $layer, string $text, string $site = ''): KeepTemplateData => KeepTemplateData::fromInput(
            ['layer' => $layer, 'data' => $text, 'site' => $site],
        );
        $acts = [
            $data('organisation', "time: [10.32.0.1, 10.38.0.1]\nmessages:\n  to: 10.32.0.9\n  level: notice\n"),
            $data('site', "# its own clock, by satellite\ntime: [10.36.0.1]\n", $this->k->id('site Outer Isles')),
            $data('site', "messages:\n  level: warning\n", $this->k->id('site Ebb Cove')),
            KeepTemplate::fromInput([
                'id' => $this->k->id('template gateways'), 'name' => 'Gateway table', 'of' => 'site', 'body' => self::TABLE,
                'fileName' => 'gateways-{name}.txt', 'description' => 'what stands at the gateway of each VLAN of a site',
            ]),
            KeepTemplate::fromInput([
                'id' => $this->k->id('template labels'), 'name' => 'Cable labels', 'of' => 'prefix', 'body' => self::LABELS,
                'description' => 'one line a host, for the label printer',
            ]),
        ];
        foreach ($acts as $act) {
            $this->acts->commit($maren, [$act], reason: 'for the demo');
        }
        $template = Template::query()->findOrFail($this->k->id('template gateways'));
        foreach (['Orrin Pier', 'Ebb Cove'] as $site) {
            TextMaking::keep($this->acts, $template, Site::query()->where('name', $site)->firstOrFail(), $maren, true);
        }
        // What is kept of Ebb Cove has changed since.
        $this->acts->commit($maren, [$data('site', "messages:\n  level: warning\ntime: [10.38.0.1]\n", $this->k->id('site Ebb Cove'))]);
    }
}
