/** What a field is about, in the common vocabulary of forms, with how it is called in English, German, French and Spanish. */
export interface Concept {
  id: string;
  /** Phrases, small letters, without accents. The longest that fits counts. */
  phrases: string[];
  /** True for words that many fields share: alone they prove less. */
  isBroad?: boolean;
}

/** Words that mean a concept only where nothing else is said. */
export const wholes: Record<string, string[]> = {
  fullname: [
    'observer',
    'requester',
    'requested by',
    'reporter',
    'reported by',
    'recorder',
    'applicant',
    'contact',
    'customer',
    'client',
    'donor',
    'tenant',
    'driver',
    'guest',
    'submitter',
    'submitted by',
    'visitor',
    'participant',
    'attendee',
    'volunteer',
    'author',
    'sender',
    'kontakt',
    'kunde',
    'melder',
    'beobachter',
    'antragsteller',
    'observateur',
    'demandeur',
    'solicitante',
    'cliente',
    'contacto',
  ],
  start: ['from', 'von', 'ab', 'desde', 'du', 'since', 'seit', 'depuis'],
  end: ['to', 'until', 'till', 'bis', 'hasta', 'au', 'jusqu au'],
  message: ['questions', 'fragen', 'preguntas', 'other', 'autre', 'otros', 'info'],
};

const concept = (id: string, phrases: string, isBroad = false): Concept => ({
  id,
  phrases: phrases.split('|').map(each => each.trim()),
  isBroad,
});

// Common practice, no source.
export const concepts: Concept[] = [
  concept(
    'given',
    'first name|given name|forename|fore name|firstname|fname|vorname|rufname|prenom|nombre de pila|given|christian name|primer nombre',
  ),
  concept(
    'family',
    'last name|surname|family name|lastname|lname|second name|nachname|familienname|zuname|nom de famille|apellido|apellidos|family',
  ),
  concept(
    'fullname',
    'full name|your name|contact name|name of contact|name and surname|first and last name|vollstandiger name|vor und nachname|ihr name|name des ansprechpartners|ansprechpartner|ansprechperson|nom complet|nom et prenom|votre nom|prenom et nom|nombre completo|nombre y apellidos|su nombre|fullname|who are you|contact person|display name|persona de contacto|wie heissen sie|what is your name|what should we call you|who should we talk to|who can we talk to|who should we contact|who are we talking to|wer ist ansprechpartner|an wen durfen wir uns wenden|comment vous appelez vous|como se llama|a nombre de quien|a nombre de|au nom de|auf welchen namen|in whose name|under what name|under which name|name of the person|name of person|nombre de la persona|nom de la personne|requester|reporter name|wer sind sie|qui etes vous|quien es usted',
  ),
  concept('name', 'name|nom|nombre|naam', true),
  concept(
    'email',
    'e mail address|email address|e mail adresse|mail address|mailadresse|adresse e mail|adresse mail|adresse email|correo electronico|direccion de correo|e mail|email|courriel|correo|mail|adresse electronique|e post|mel|mail id|electronic mail|wohin durfen wir schreiben|email id|where can we write|write to you|mailaddress|emailaddress|adresse courriel',
  ),
  concept(
    'phone',
    'phone number|telephone number|mobile number|contact number|cell phone|cell|mobile phone|mobile|telephone|phone|tel|telefonnummer|handynummer|mobilnummer|rufnummer|telefon|handy|mobil|numero de telephone|telephone portable|portable|numero de telefono|telefono|movil|telefono movil|number to call|ring you|call you|call back|daytime number|wie erreichen wir sie|handynr|telefonnr|tel nr|number we can text|sms number|text you|fon|telephone fixe|fijo|telefono fijo|festnetz|landline|mobile no|phone no|tel no|whatsapp|wie konnen wir sie erreichen|wie konnen wir sie anrufen|comment vous joindre|donde podemos llamarle|best number|contact telephone|numero de contact|numero de contacto',
  ),
  concept('fax', 'fax|fax number|telefax'),
  concept(
    'line2',
    'address line 2|address 2|line 2|flat|apartment|suite|unit|adresszusatz|complement d adresse|complement|piso|addr2',
  ),
  concept(
    'street',
    'street address|street and number|street name|address line 1|address 1|line 1|street|road|strasse und hausnummer|strasse|hausnummer|rue|voie|numero et rue|calle|calle y numero|domicilio|addr1',
  ),
  concept(
    'city',
    'town or city|city or town|city|town|locality|village|ort|stadt|wohnort|ville|commune|localite|ciudad|localidad|poblacion|municipio|municipality',
  ),
  concept(
    'postcode',
    'postal code|post code|postcode|zip code|zip|zipcode|plz|postleitzahl|code postal|codigo postal|cp',
  ),
  concept(
    'region',
    'state or province|state|province|region|county|bundesland|kanton|departement|provincia|estado|comunidad autonoma',
  ),
  concept('country', 'country of residence|country|nation|land|pays|pais|staat'),
  concept(
    'address',
    'postal address|home address|mailing address|full address|address|where do you live|anschrift|adresse|adresse postale|adresse complete|direccion|direccion postal|where to|where should we send it|send it to|ship it to|deliver to|wohin|ou devons nous|donde vive|wo wohnen sie|ou habitez vous|where do you live|postal adresse|post address|correspondence address|domicile|residence|wohnadresse|heimadresse',
  ),
  concept(
    'company',
    'company name|organisation name|organization name|name of company|name of organisation|company|organisation|organization|employer|business name|business|firm|institution|firma|firmenname|unternehmen|arbeitgeber|entreprise|societe|raison sociale|employeur|empresa|organizacion|compania|account name|charity|association|verein|name of your company|name of your organisation|business or organisation|arbeitsstelle|nom de l entreprise|nombre de la empresa|where do you work|workplace|trager|institution name|verein oder firma|kanzlei|praxis|agency|agence|agencia|club name',
  ),
  concept(
    'job',
    'job title|position|role|occupation|profession|job|funktion|beruf|stelle|poste|fonction|metier|cargo|puesto|profesion|what do you do|was machen sie beruflich|que faites vous dans la vie|a que se dedica|berufsbezeichnung|stellung|puesto de trabajo|position in the company|your role|current role|current position|tatigkeit|ocupacion|oficio|designation',
  ),
  concept('department', 'department|division|abteilung|bereich|service|departamento|departement intern'),
  concept(
    'birthday',
    'date of birth|birth date|birthdate|birthday|dob|born|geburtsdatum|geburtstag|geboren|date de naissance|ne le|fecha de nacimiento|nacimiento|when were you born|day month and year of birth|year of birth|birth|ne e le|nee le|geburt',
  ),
  concept('age', 'age|age group|how old|alter|edad|years old|wie alt|quel age|cuantos anos|lebensalter|edad del'),
  concept('gender', 'gender|sex|geschlecht|genre|sexe|genero|sexo|male or female|mannlich|weiblich|gender identity'),
  concept(
    'salutation',
    'salutation|title of address|form of address|anrede|civilite|tratamiento|honorific|prefix|mr mrs|mr or mrs|titre de civilite|trato|how should we address you',
  ),
  concept('pronouns', 'pronouns|pronomen|pronoms|pronombres'),
  concept(
    'language',
    'preferred language|language|sprache|langue|idioma|lengua|locale|which language|langue preferee|idioma preferido|korrespondenzsprache|bevorzugte sprache',
  ),
  concept('nationality', 'nationality|citizenship|nationalitat|staatsangehorigkeit|nationalite|nacionalidad'),
  concept(
    'website',
    'web site|website|homepage|web page|url|webseite|site web|site internet|sitio web|pagina web|web|web address|internet address|internetseite|homepage address|blog|portfolio|enlace|social profile|profile link|online profile',
  ),
  concept(
    'message',
    'anything else|your message|message|comments|comment|remarks|remark|notes|note|additional information|further information|tell us more|nachricht|ihre nachricht|mitteilung|bemerkungen|bemerkung|kommentar|anmerkungen|anmerkung|sonstiges|commentaires|commentaire|remarques|remarque|observations|mensaje|comentarios|comentario|observaciones|notas|should we know|want to say|hinweise|hinweis|un mot|mot|noch sagen|noch mitteilen|other information|autres informations|informacion adicional|algo mas|something else|ihre fragen|vos questions|sus preguntas',
  ),
  concept(
    'description',
    'description|describe|details|what happened|beschreibung|beschreiben|descripcion|detalles|describir|decrivez|precisions|what went wrong|what is wrong|what is the matter|what is the problem|was ist passiert|was ist geschehen|worum geht es|que s est il passe|que se passe t il|que ha pasado|que ocurrio|que sucedio|cuentenos|racontez|erzahlen sie|schildern sie|expliquez|explique|explain|requirements|narrative|content of',
    true,
  ),
  concept(
    'subject',
    'subject|topic|what is it about|betreff|thema|anliegen|objet|sujet|asunto|tema|headline|summary|title|titel|titre|titulo',
  ),
  concept(
    'quantity',
    'quantity|how many|number of|count|amount needed|qty|anzahl|menge|wie viele|quantite|combien|nombre de|cantidad|cuantos|cuantas|numero de|wie viel|wieviel|how much of|number needed|units|stuckzahl|stuck|nombre d|cuanto|cuantos|number wanted|pieces|no of|amount of',
    true,
  ),
  concept(
    'money',
    'how much money|how much|price|cost|budget|total amount|amount|donation|fee|salary|preis|kosten|betrag|spende|gehalt|prix|cout|montant|don|salaire|precio|coste|importe|presupuesto|donacion|salario|income|revenue',
  ),
  concept(
    'newsletter',
    'newsletter|mailing list|email updates|keep me posted|stay informed|yearly report|infolettre|lettre d information|boletin|rundbrief|offers|ofertas|angebote|offres|marketing|promotions|promotional|werbung|actualites|novedades|neuigkeiten|send me news|keep me informed|haltet mich auf dem laufenden|mailings',
  ),
  concept(
    'consent',
    'consent|i agree|agree|gdpr|privacy policy|privacy|terms and conditions|terms|permission|data protection|einwilligung|zustimmung|zustimmen|einverstanden|datenschutz|agb|consentement|j accepte|accepte|consentimiento|acepto|terminos|privacidad|rgpd|dsgvo|opt in|i have read|ich habe gelesen|j ai lu|he leido|rules accepted|accept the rules|i accept|ich akzeptiere|ich bin einverstanden|je suis d accord|estoy de acuerdo|terms accepted|accepted terms|reglement interieur|conditions generales|condiciones generales|bedingungen|politique de confidentialite|politica de privacidad|datenschutzerklarung|acepto las condiciones|j accepte le reglement',
  ),
  concept(
    'source',
    'how did you hear|hear about us|heard about|how you found us|find out about us|referral source|lead source|source|wie haben sie von uns erfahren|von uns erfahren|auf uns aufmerksam|comment avez vous connu|connu|como nos conocio|nos conocio|conocido|marketing channel|campaign|how did you find us|how did you learn|how did you come across|where did you hear|wie sind sie auf uns|wo haben sie von uns|wie kamen sie auf uns|comment nous avez vous|ou avez vous entendu|como supo|como nos encontro|como se entero|heard of us|found us|how they heard|how they found us|referred by|referral|herkunft des kontakts|acquisition',
  ),
  concept(
    'photo',
    'photographs|photograph|photos|photo|pictures|picture|images|image|foto|fotos|bild|bilder|imagen|imagenes|fotografia',
  ),
  concept('cv', 'curriculum vitae|cv|resume|lebenslauf|curriculum'),
  concept(
    'file',
    'attachments|attachment|files|file|upload|documents|document|supporting document|datei|dateien|anhang|anlage|unterlagen|fichiers|fichier|piece jointe|pieces jointes|archivo|archivos|adjunto|adjuntos|documento|documentos|scan|scanned|nachweis|justificatif|justificante|comprobante|beleg|proof|certificate|zertifikat|attestation|certificado|pdf|plan|screenshot|bildschirmfoto|capture|captura|anhange|beilage',
  ),
  concept('birthplace', 'place of birth|birthplace|geburtsort|lieu de naissance|lugar de nacimiento'),
  concept(
    'place',
    'which site|site|location|where|place|venue|standort|messstelle|ort der|lieu|emplacement|endroit|lugar|ubicacion|sitio|station|where is it|where was it|where did it|where are you|ou se trouve|ou est|donde esta|donde|wo ist|wo befindet|fundort|tatort|meeting point|treffpunkt|spot',
    true,
  ),
  concept('arrival', 'arrival date|arrival|check in|checkin|anreise|ankunft|arrivee|llegada|entrada'),
  concept('departure', 'departure date|departure|check out|checkout|abreise|abfahrt|depart|salida'),
  concept(
    'deadline',
    'needed by|due date|deadline|due|by when|frist|bis wann|falligkeit|echeance|date limite|fecha limite|plazo|required by|wanted by|required date|needed on|date needed|needed for|pour quand|para cuando|bis zu welchem|latest date|delivery by|gewunschter termin',
  ),
  concept('date', 'date|day|when|datum|tag|wann|jour|quand|fecha|dia|cuando', true),
  concept(
    'time',
    'time of day|time|hour|uhrzeit|zeit|heure|hora|at what time|what time|um wie viel uhr|a quelle heure|a que hora|uhr|time slot|slot',
    true,
  ),
  concept(
    'severity',
    'severity|priority|urgency|how bad|how urgent|urgent|dringlichkeit|prioritat|schweregrad|priorite|urgence de|gravite|prioridad|urgencia|gravedad|how serious|how bad is it|how soon|importance|wichtigkeit|wie dringend|a quel point|que tan urgente|level of urgency',
  ),
  concept('status', 'status|state of|stage|zustand|statut|etat|estado de', true),
  concept('type', 'type|kind|sort|category|art|kategorie|typ|categorie|genre de|tipo|categoria|clase', true),
  concept(
    'reference',
    'reference number|reference|ref|case number|ticket number|order number|customer number|member number|membership number|invoice number|aktenzeichen|kundennummer|mitgliedsnummer|bestellnummer|numero de client|numero de commande|numero de dossier|numero de cliente|numero de pedido|ticket no|order no|bestell nr|kunden nr|numero de reference|numero de referencia|policy number|contract number|vertragsnummer|numero de contrat|numero de contrato|versicherungsnummer|insurance number|invoice no|member no|member id|customer id|client number|client id|account id|rechnungsnummer|auftragsnummer|dossier|buchungsnummer|booking reference|booking number',
  ),
  concept('product', 'product|item|article|produkt|artikel|produit|producto|articulo|which product'),
  concept(
    'interests',
    'interests|interested in|hobbies|like to do|interessen|interet|interets|centres d interet|intereses|what would you like',
  ),
  concept('skills', 'skills|abilities|experience|fahigkeiten|kenntnisse|competences|habilidades|competencias'),
  concept(
    'diet',
    'dietary requirements|dietary|diet|allergies|allergy|food|ernahrung|allergien|regime|restricciones alimentarias|alergias|verpflegung|essgewohnheiten|unvertraglichkeiten|lebensmittelunvertraglichkeit|intolerances|intolerancias|intolerance|food needs|can t eat|do not eat|vegetarian',
  ),
  concept('size', 't shirt size|shirt size|size|grosse|konfektionsgrosse|taille|talla|tamano'),
  concept('colour', 'colour|color|farbe|couleur'),
  concept('temperature', 'temperature|temp|temperatur|temperatura'),
  concept('weight', 'weight|gewicht|poids|peso'),
  concept('height', 'height|korpergrosse|hauteur|altura|estatura'),
  concept(
    'rating',
    'rating|stars|score|satisfaction|how satisfied|how likely|bewertung|zufriedenheit|note de|evaluation|valoracion|satisfaccion|puntuacion|overall rating|how would you rate|how do you rate|wie bewerten|wie zufrieden|note globale|comment evaluez|como valora|grado de satisfaccion|gesamtbewertung|stars out of',
  ),
  concept(
    'guests',
    'number of guests|guests|party size|people with you|attendees|participants|persons|people|personen|gaste|teilnehmer|personnes|invites|personas|invitados|asistentes|pupils|schuler|eleves|alumnos|comensales|convives|headcount|head count|number of participants|number of attendees|number of children|how many children|how many people|how many persons|wie viele personen|combien de personnes|cuantas personas|anzahl personen|nombre de personnes|numero de personas|anzahl der personen|anzahl der teilnehmer|nombre de participants|numero de asistentes|group size|size of group|gruppengrosse|taille du groupe',
  ),
  concept(
    'school',
    'school name|school|schule|ecole|escuela|colegio|university|universitat|universite|universidad|name der schule|nom de l ecole|nombre del colegio|schulname|etablissement|centro educativo|kindergarten|kita',
  ),
  concept(
    'teacher',
    'teacher|lehrer|lehrkraft|enseignant|professeur|profesor|maestro|lehrperson|klassenlehrer|maitresse|maitre|docente|class teacher',
  ),
  concept('class', 'year group|class|grade|klasse|klassenstufe|jahrgang|classe|niveau|curso|grado'),
  concept(
    'start',
    'start date|start|begin|begins|ab wann|when does it start|a partir de quand|begin date|beginning|beginn|anfang|startdatum|debut|date de debut|inicio|fecha de inicio|from date|earliest start|available from|fruhester beginn|eintrittsdatum|fruhestens ab|date d entree|disponible a partir de|disponible des|move in|einzug|date d arrivee souhaitee|fecha de incorporacion|starting|starts on|begins on',
  ),
  concept('end', 'end date|end|ends|finish|bis wann|ende|enddatum|fin|date de fin|fecha de fin|until date|final'),
  concept('duration', 'duration|how long|length of stay|dauer|wie lange|duree|combien de temps|duracion|cuanto tiempo'),
  concept(
    'nationalid',
    'national id|id number|identity card|id card|passport number|passport|dni|nie|ausweisnummer|personalausweis|reisepass|piece d identite|numero d identite|cedula|documento de identidad',
  ),
  concept(
    'payment',
    'payment method|method of payment|payment type|zahlungsart|zahlungsweise|zahlungsmethode|mode de paiement|moyen de paiement|forma de pago|metodo de pago|medio de pago|how would you like to pay|how will you pay',
  ),
  concept(
    'staffnumber',
    'employee number|employee id|staff number|staff id|personnel number|payroll number|personalnummer|mitarbeiternummer|matricule|numero de empleado',
  ),
  concept('iban', 'iban|bank account|account number|kontonummer|compte bancaire|cuenta bancaria'),
  concept('vat', 'vat number|vat|tax number|tax id|ust id|steuernummer|umsatzsteuer id|numero de tva|tva|nif|cif'),
  concept('identifier', 'id|identifier|key|uuid|kennung|identifiant|identificador|code', true),
];

/** Which of several like things a field is about: somebody's own or another's, one use or another. */
export const qualifiers: Record<string, string[]> = {
  billing: [
    'billing',
    'invoice',
    'invoicing',
    'rechnung',
    'rechnungs',
    'facturation',
    'facture',
    'facturacion',
    'factura',
    'bill',
  ],
  delivery: [
    'delivery',
    'shipping',
    'ship',
    'deliver',
    'lieferung',
    'liefer',
    'versand',
    'livraison',
    'envio',
    'entrega',
    'recipient',
  ],
  emergency: ['emergency', 'notfall', 'urgence', 'emergencia', 'ice', 'kin'],
  work: [
    'work',
    'office',
    'dienstlich',
    'geschaftlich',
    'buro',
    'bureau',
    'professionnel',
    'professionnelle',
    'trabajo',
    'oficina',
    'firmen',
    'corporate',
  ],
  home: ['home', 'private', 'personal', 'privat', 'domicile', 'personnel', 'casa', 'particular', 'evening'],
  parent: [
    'parent',
    'guardian',
    'mother',
    'father',
    'eltern',
    'erziehungsberechtigte',
    'erziehungsberechtigter',
    'mutter',
    'vater',
    'parents',
    'tuteur',
    'padre',
    'madre',
    'tutor',
  ],
  child: [
    'child',
    'kind',
    'kindes',
    'enfant',
    'nino',
    'hijo',
    'student',
    'pupil',
    'son',
    'daughter',
    'camper',
    'player',
    'children',
  ],
  partner: ['partner', 'spouse', 'wife', 'husband', 'ehepartner', 'conjoint', 'conyuge', 'pareja'],
  second: [
    'second',
    'secondary',
    'alternative',
    'alternate',
    'additional',
    'zweite',
    'zweiter',
    'deuxieme',
    'secondaire',
    'segundo',
    'alternativo',
    'other',
    'else',
    'another',
  ],
  manager: ['manager', 'supervisor', 'boss', 'vorgesetzte', 'vorgesetzter', 'jefe', 'referee', 'reference person'],
  start: ['start', 'begin', 'from', 'beginn', 'anfang', 'debut', 'inicio', 'arrival', 'entry'],
  end: ['end', 'until', 'ende', 'bis', 'fin', 'final', 'departure', 'exit', 'expiry'],
  created: ['created', 'submitted', 'registered', 'erstellt', 'cree', 'creado', 'updated', 'modified', 'signup'],
};

/** Words that say nothing about what is asked. */
export const fillers = new Set(
  (
    'the a an of to for in on at and or your you our us we i me my is are was do does did have has had please if any what which who whom whose how this that it its with about by as be can could would should will like give tell enter choose select ' +
    'der die das des dem den ein eine einen ihr ihre ihren ihrer sie wir uns ist sind und oder bitte von fur mit zu zum zur im am wenn welche welcher welches wie was wo ' +
    'le la les l un une des du de d votre vos nous vous est sont et ou merci pour avec a au aux si quel quelle quels quelles comment que qui ' +
    'el los las un una su sus nos es son y o por favor para con al si cual cuales como que quien field value input answer question form required optional field1'
  ).split(' '),
);
