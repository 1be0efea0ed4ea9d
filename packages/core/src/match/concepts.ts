/** What a field is about, in the common vocabulary of forms, with how it is called in English, German, French and Spanish. */
export interface Concept {
  id: string;
  /** Phrases, small letters, without accents. The longest that fits counts. */
  phrases: string[];
  /** True for words that many fields share: alone they prove less. */
  isBroad?: boolean;
}

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
    'full name|your name|contact name|name of contact|name and surname|first and last name|vollstandiger name|vor und nachname|ihr name|name des ansprechpartners|ansprechpartner|ansprechperson|nom complet|nom et prenom|votre nom|prenom et nom|nombre completo|nombre y apellidos|su nombre|fullname|who are you|contact person|display name|persona de contacto|wie heissen sie|what is your name|what should we call you|comment vous appelez vous|como se llama',
  ),
  concept('name', 'name|nom|nombre|naam', true),
  concept(
    'email',
    'e mail address|email address|e mail adresse|mail address|mailadresse|adresse e mail|adresse mail|adresse email|correo electronico|direccion de correo|e mail|email|courriel|correo|mail|adresse electronique',
  ),
  concept(
    'phone',
    'phone number|telephone number|mobile number|contact number|cell phone|cell|mobile phone|mobile|telephone|phone|tel|telefonnummer|handynummer|mobilnummer|rufnummer|telefon|handy|mobil|numero de telephone|telephone portable|portable|numero de telefono|telefono|movil|telefono movil|number to call|ring you|call you|call back|daytime number|wie erreichen wir sie',
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
    'postal address|home address|mailing address|full address|address|where do you live|anschrift|adresse|adresse postale|adresse complete|direccion|direccion postal|where to',
  ),
  concept(
    'company',
    'company name|organisation name|organization name|name of company|name of organisation|company|organisation|organization|employer|business name|business|firm|institution|firma|firmenname|unternehmen|arbeitgeber|entreprise|societe|raison sociale|employeur|empresa|organizacion|compania|account name|charity|association|verein',
  ),
  concept(
    'job',
    'job title|position|role|occupation|profession|job|funktion|beruf|stelle|poste|fonction|metier|cargo|puesto|profesion',
  ),
  concept('department', 'department|division|abteilung|bereich|service|departamento|departement intern'),
  concept(
    'birthday',
    'date of birth|birth date|birthdate|birthday|dob|born|geburtsdatum|geburtstag|geboren|date de naissance|ne le|fecha de nacimiento|nacimiento|when were you born',
  ),
  concept('age', 'age|age group|how old|alter|edad'),
  concept('gender', 'gender|sex|geschlecht|genre|sexe|genero|sexo'),
  concept('salutation', 'salutation|title of address|form of address|anrede|civilite|tratamiento|honorific|prefix'),
  concept('pronouns', 'pronouns|pronomen|pronoms|pronombres'),
  concept('language', 'preferred language|language|sprache|langue|idioma|lengua|locale'),
  concept('nationality', 'nationality|citizenship|nationalitat|staatsangehorigkeit|nationalite|nacionalidad'),
  concept('website', 'web site|website|homepage|web page|url|webseite|site web|site internet|sitio web|pagina web|web'),
  concept(
    'message',
    'anything else|your message|message|comments|comment|remarks|remark|notes|note|additional information|further information|tell us more|nachricht|ihre nachricht|mitteilung|bemerkungen|bemerkung|kommentar|anmerkungen|anmerkung|sonstiges|commentaires|commentaire|remarques|remarque|observations|mensaje|comentarios|comentario|observaciones|notas|should we know|want to say',
  ),
  concept(
    'description',
    'description|describe|details|what happened|beschreibung|beschreiben|descripcion|detalles|describir|decrivez|precisions',
    true,
  ),
  concept(
    'subject',
    'subject|topic|what is it about|betreff|thema|anliegen|objet|sujet|asunto|tema|headline|summary|title|titel|titre|titulo',
  ),
  concept(
    'quantity',
    'quantity|how many|number of|count|amount needed|qty|anzahl|menge|wie viele|quantite|combien|nombre de|cantidad|cuantos|cuantas|numero de',
    true,
  ),
  concept(
    'money',
    'price|cost|budget|total amount|amount|donation|fee|salary|preis|kosten|betrag|spende|gehalt|prix|cout|montant|don|salaire|precio|coste|importe|presupuesto|donacion|salario|income|revenue',
  ),
  concept(
    'newsletter',
    'newsletter|mailing list|email updates|keep me posted|stay informed|yearly report|infolettre|lettre d information|boletin|rundbrief',
  ),
  concept(
    'consent',
    'consent|i agree|agree|gdpr|privacy policy|privacy|terms and conditions|terms|permission|data protection|einwilligung|zustimmung|zustimmen|einverstanden|datenschutz|agb|consentement|j accepte|accepte|consentimiento|acepto|terminos|privacidad|rgpd|dsgvo|opt in',
  ),
  concept(
    'source',
    'how did you hear|hear about us|heard about|how you found us|find out about us|referral source|lead source|source|wie haben sie von uns erfahren|von uns erfahren|auf uns aufmerksam|comment avez vous connu|connu|como nos conocio|nos conocio|conocido|marketing channel|campaign',
  ),
  concept(
    'photo',
    'photographs|photograph|photos|photo|pictures|picture|images|image|foto|fotos|bild|bilder|imagen|imagenes|fotografia',
  ),
  concept('cv', 'curriculum vitae|cv|resume|lebenslauf|curriculum'),
  concept(
    'file',
    'attachments|attachment|files|file|upload|documents|document|supporting document|datei|dateien|anhang|anlage|unterlagen|fichiers|fichier|piece jointe|pieces jointes|archivo|archivos|adjunto|adjuntos|documento|documentos',
  ),
  concept('birthplace', 'place of birth|birthplace|geburtsort|lieu de naissance|lugar de nacimiento'),
  concept(
    'place',
    'which site|site|location|where|place|venue|standort|messstelle|ort der|lieu|emplacement|endroit|lugar|ubicacion|sitio|station',
    true,
  ),
  concept('arrival', 'arrival date|arrival|check in|checkin|anreise|ankunft|arrivee|llegada|entrada'),
  concept('departure', 'departure date|departure|check out|checkout|abreise|abfahrt|depart|salida'),
  concept(
    'deadline',
    'needed by|due date|deadline|due|by when|frist|bis wann|falligkeit|echeance|date limite|fecha limite|plazo|required by',
  ),
  concept('date', 'date|day|when|datum|tag|wann|jour|quand|fecha|dia|cuando', true),
  concept('time', 'time of day|time|hour|uhrzeit|zeit|heure|hora', true),
  concept(
    'severity',
    'severity|priority|urgency|how bad|how urgent|urgent|dringlichkeit|prioritat|schweregrad|priorite|urgence de|gravite|prioridad|urgencia|gravedad',
  ),
  concept('status', 'status|state of|stage|zustand|statut|etat|estado de', true),
  concept('type', 'type|kind|sort|category|art|kategorie|typ|categorie|genre de|tipo|categoria|clase', true),
  concept(
    'reference',
    'reference number|reference|ref|case number|ticket number|order number|customer number|member number|membership number|invoice number|aktenzeichen|kundennummer|mitgliedsnummer|bestellnummer|numero de client|numero de commande|numero de dossier|numero de cliente|numero de pedido|id number',
  ),
  concept('product', 'product|item|article|produkt|artikel|produit|producto|articulo|which product'),
  concept(
    'interests',
    'interests|interested in|hobbies|like to do|interessen|interet|interets|centres d interet|intereses|what would you like',
  ),
  concept('skills', 'skills|abilities|experience|fahigkeiten|kenntnisse|competences|habilidades|competencias'),
  concept(
    'diet',
    'dietary requirements|dietary|diet|allergies|allergy|food|ernahrung|allergien|regime|restricciones alimentarias|alergias|verpflegung',
  ),
  concept('size', 't shirt size|shirt size|size|grosse|konfektionsgrosse|taille|talla|tamano'),
  concept('colour', 'colour|color|farbe|couleur'),
  concept('temperature', 'temperature|temp|temperatur|temperatura'),
  concept('weight', 'weight|gewicht|poids|peso'),
  concept('height', 'height|korpergrosse|hauteur|altura|estatura'),
  concept(
    'rating',
    'rating|stars|score|satisfaction|how satisfied|how likely|bewertung|zufriedenheit|note de|evaluation|valoracion|satisfaccion|puntuacion',
  ),
  concept(
    'guests',
    'number of guests|guests|party size|people with you|attendees|participants|persons|people|personen|gaste|teilnehmer|personnes|invites|personas|invitados|asistentes|pupils|schuler|eleves|alumnos',
  ),
  concept('school', 'school name|school|schule|ecole|escuela|colegio|university|universitat|universite|universidad'),
  concept('teacher', 'teacher|lehrer|lehrkraft|enseignant|professeur|profesor|maestro'),
  concept('class', 'year group|class|grade|klasse|klassenstufe|jahrgang|classe|niveau|curso|grado'),
  concept(
    'start',
    'start date|start|begin date|beginning|beginn|anfang|startdatum|debut|date de debut|inicio|fecha de inicio|from date',
  ),
  concept('end', 'end date|end|finish|ende|enddatum|fin|date de fin|fecha de fin|until date|final'),
  concept('duration', 'duration|how long|length of stay|dauer|wie lange|duree|combien de temps|duracion|cuanto tiempo'),
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
    'payment',
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
  child: ['child', 'kind', 'kindes', 'enfant', 'nino', 'hijo', 'student', 'pupil', 'son', 'daughter'],
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
  ],
  manager: [
    'manager',
    'supervisor',
    'boss',
    'vorgesetzte',
    'vorgesetzter',
    'responsable',
    'jefe',
    'referee',
    'reference person',
  ],
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
