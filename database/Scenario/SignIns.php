<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Acts\Directory\ChangePerson;
use App\Acts\Directory\KeepGrant;
use App\Acts\Directory\KeepTeam;
use App\Acts\Directory\MakePerson;
use App\Acts\Directory\MakeProgramToken;
use App\Links\ControlChannel;
use App\Models\Server;

/** The organisation's own sign-in, by its stand-in: who is known there, and a team that is a group there. */
final class SignIns
{
    public function __construct(private readonly Kittiwake $k)
    {
    }

    /** It writes labels for Tarbeck, and acts for nobody. */
    private function program(): void
    {
        $this->k->do(MakePerson::fromInput([
            'signIn' => 'label-press', 'name' => 'Label press', 'roles' => ['guest'], 'program' => '1',
            'id' => $this->k->id('person press'),
        ]));
        $this->k->do(KeepGrant::fromInput([
            'does' => ['look'], 'where' => 'site Tarbeck', 'person' => $this->k->id('person press'), 'why' => 'prints labels for Tarbeck',
        ]));
        $this->k->do(MakeProgramToken::fromInput(['person' => $this->k->id('person press'), 'name' => 'press in the workshop']));
    }

    public function load(): void
    {
        $this->k->do(KeepTeam::fromInput([
            'name' => 'Night desk', 'group' => 'night-desk', 'people' => [$this->k->id('person ilke')],
            'description' => 'follows the group of that name at Kittiwake',
        ]));
        $this->program();
        $people = [];
        foreach (['maren' => 'Maren Tolk', 'ilke' => 'Ilke Brandt', 'sable' => 'Sable Venn', 'petrel' => 'Petrel Moss'] as $name => $full) {
            $people["$name@kittiwake.example"] = [
                'sub' => 'k-'.crc32($name), 'name' => $full, 'groups' => $name === 'sable' ? [] : ['night-desk', 'staff'], 'amr' => ['pwd'],
            ];
            // Nobody has written down yet who Petrel is.
            if ($name !== 'petrel') {
                $this->k->do(ChangePerson::fromInput([
                    'person' => $this->k->id("person $name"), 'outside' => "$name@kittiwake.example",
                ]));
            }
        }
        $settings = json_decode((string) @file_get_contents((string) config('harbor.standins')), true);
        $own = is_array($settings) ? $settings['flag1'] ?? null : null;
        if (is_array($own)) {
            $server = new Server(['name' => 'flag1', 'control' => "127.0.0.1:$own[control]", 'token' => $own['token']]);
            (new ControlChannel($server, 5.0))->ask('people', ['people' => $people]);
        }
    }
}
