<?php

declare(strict_types=1);

namespace App\Acts\Engine;

/** What an input of an act holds. */
enum Kind: string
{
    /** one line of text */
    case Line = 'line';

    /** lines of text */
    case Text = 'text';

    /** text that is never shown again */
    case Secret = 'secret';

    /** one of a few words */
    case Choice = 'choice';

    /** a whole number */
    case Number = 'number';

    /** yes or no */
    case Flag = 'flag';

    /** an object that is there, by its id */
    case Id = 'id';

    /** the id of what the act makes, minted by whoever asks for it */
    case NewId = 'new id';

    /** objects that are there, by their ids */
    case Ids = 'ids';

    /** several texts */
    case Texts = 'texts';

    /** several texts with words apart by spaces in them, one a line or apart by commas */
    case Lines = 'lines';

    /** texts by key */
    case Map = 'map';
}
