<?php

declare(strict_types=1);

namespace HarborPost\Core\Checks;

use HarborPost\Core\Dns\Name;

/** Names that hosts may have: letters, digits and hyphens, none of them at an end (RFC 952, RFC 1123 §2.1). */
final class HostName
{
    /** Characters that no program takes for a host. */
    public const IMPOSSIBLE = 'impossible';

    /** Works in DNS; some programs refuse it. */
    public const UNUSUAL = 'unusual';

    /** @return array{code: self::IMPOSSIBLE|self::UNUSUAL, message: string}|null null for a name without fault */
    public static function fault(Name $name): ?array
    {
        foreach ($name->labels() as $label) {
            $shown = preg_match('/\A[\x21-\x7e]+\z/', $label) === 1 ? $label : addcslashes($label, "\0..\x20\x7f..\xff");
            if ($label === '*') {
                return ['code' => self::IMPOSSIBLE, 'message' => 'an asterisk stands for every name below, not for a host'];
            }
            if (preg_match('/[^a-zA-Z0-9_-]/', $label, $odd) === 1) {
                return [
                    'code' => self::IMPOSSIBLE,
                    'message' => sprintf(
                        '"%s" holds %s; host names are of letters, digits and hyphens',
                        $shown,
                        $odd[0] === ' ' ? 'a blank' : '"'.addcslashes($odd[0], "\0..\x20\x7f..\xff").'"',
                    ),
                ];
            }
        }
        foreach ($name->labels() as $label) {
            if (str_starts_with($label, '-') || str_ends_with($label, '-')) {
                return ['code' => self::UNUSUAL, 'message' => "\"$label\" begins or ends with a hyphen"];
            }
            if (str_contains($label, '_')) {
                return ['code' => self::UNUSUAL, 'message' => "\"$label\" holds an underscore"];
            }
        }

        return null;
    }
}
