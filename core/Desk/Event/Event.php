<?php

declare(strict_types=1);

namespace Lotrik\Desk\Event;

/** Something that has happened at the desk. State changes only by applying events; each is one row of the journal. */
interface Event {}
