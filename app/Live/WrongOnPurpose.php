<?php

declare(strict_types=1);

namespace App\Live;

use App\Links\Names\DnsClient;
use App\Links\Unanswered;
use App\Models\Server;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\ExtendedError;
use HarborPost\Core\Dns\Wire\Rcode;

/** Asks a resolver for names whose signatures are wrong in seven ways, and for one that is right: only the right one may be believed. */
final class WrongOnPurpose
{
    /** name below the zone of the trial → what is wrong with it */
    public const NAMES = [
        'good' => '', 'expired' => 'the signature has expired', 'early' => 'the signature is not valid yet',
        'wrong-key' => 'signed by a key that is not in the zone', 'no-signature' => 'the signature is missing',
        'no-such-name.no-denial' => 'nothing proves that there is no such name', 'www.wrong-ds' => 'the DS names another key',
        'www.revoked' => 'the key was revoked',
    ];

    /** @return list<array{name: string, wrong: string, said: string, why: string, good: bool}> */
    public static function at(Server $resolver, string $zone): array
    {
        $client = new DnsClient($resolver->name, $resolver->endpoint, (float) config('harbor.patience'));
        $rows = [];
        foreach (self::NAMES as $label => $wrong) {
            try {
                $answer = $client->ask(Name::parse("$label.$zone."), RecordType::of(RecordType::A), null, true, dnssecOk: true)->message;
                $believed = $answer->rcode !== Rcode::ServFail;
                $rows[] = [
                    'name' => "$label.$zone", 'wrong' => $wrong, 'why' => ExtendedError::of($answer)->words ?? '',
                    'said' => $answer->rcode->name.($answer->authenticData ? ', proved' : ''),
                    'good' => $wrong === '' ? $answer->authenticData : ! $believed,
                ];
            } catch (Unanswered $e) {
                $rows[] = ['name' => "$label.$zone", 'wrong' => $wrong, 'said' => 'no answer', 'why' => $e->getMessage(), 'good' => false];
            }
        }

        return $rows;
    }
}
